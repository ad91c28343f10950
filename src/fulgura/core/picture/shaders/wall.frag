uniform sampler2D u_source;

void main() { o_colour = texture(u_source, v_uv); }
