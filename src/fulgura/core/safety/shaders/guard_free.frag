uniform sampler2D u_source;
uniform float u_light;

// The picture as it is.
void main() { o_colour = clamp(here(u_source), 0.0, 1.0) * vec4(vec3(u_light), 1.0); }
