in float v_share;
uniform sampler2D u_source, u_previous;
uniform float u_light;

// The picture, with as much of the one before as keeps it from flashing too often.
void main() {
  vec4 coming = clamp(here(u_source), 0.0, 1.0) * vec4(vec3(u_light), 1.0);
  o_colour = mix(coming, here(u_previous), v_share);
}
