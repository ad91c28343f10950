uniform float u_level, u_cover;
uniform vec3 u_tint;

void main() { o_colour = vec4(u_tint * u_level, 1.0) * u_cover; }
