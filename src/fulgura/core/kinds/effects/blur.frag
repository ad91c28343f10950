uniform sampler2D u_source, u_stage;
uniform float u_radius, u_where;

void main() {
  vec2 middle = v_uv * 2.0 - 1.0;
  float there = u_where < 0.5 ? 1.0 : u_where < 1.5 ? smoothstep(0.2, 1.2,
      length(middle)) : u_where < 2.5 ? smoothstep(0.15, 0.9, abs(middle.y)) : 1.0 - smoothstep(0.1, 0.9,
      length(middle));
  // The soft picture is small: where hardly anything is to be smeared, the sharp one shows.
  o_colour = mix(here(u_source), texture(u_stage, v_uv), there * smoothstep(0.0, 0.02, u_radius));
}
