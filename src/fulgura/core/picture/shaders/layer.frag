uniform sampler2D u_source;
uniform float u_opacity;

void main() { o_colour = texture(u_source, v_uv) * u_opacity; }
