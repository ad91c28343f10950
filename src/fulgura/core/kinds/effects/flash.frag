uniform sampler2D u_source;
uniform float u_amount, u_where;
uniform vec3 u_tint;

void main() {
  vec4 c = here(u_source);
  // Over everything, or only where there is light already.
  float there = u_where < 0.5 ? 1.0 : clamp(max(c.r, max(c.g, c.b)) * 2.0, 0.0, 1.0);
  float a = u_amount * there;
  o_colour = vec4(mix(c.rgb, u_tint, a), max(c.a, a));
}
