uniform sampler2D u_source, u_previous, u_share;
uniform float u_light;

// The picture, with as much of the one before as keeps it from flashing too often.
void main() {
  vec4 coming = clamp(here(u_source), 0.0, 1.0) * vec4(vec3(u_light), 1.0);
  float share = texture(u_share, v_uv).r;
  o_colour = share > 0.0 ? mix(coming, here(u_previous), share) : coming;
}
