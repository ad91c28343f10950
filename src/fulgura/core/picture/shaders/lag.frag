uniform sampler2D u_source, u_past_2, u_past_4, u_past_6, u_past_8;
uniform float u_red, u_green, u_blue, u_amount;

// One picture in two is kept: between those, both are mixed.
float late(float by, float p0, float p2, float p4, float p6, float p8) {
  float n = by * 0.5;
  if (n < 1.0) return mix(p0, p2, n);
  if (n < 2.0) return mix(p2, p4, n - 1.0);
  if (n < 3.0) return mix(p4, p6, n - 2.0);
  return mix(p6, p8, n - 3.0);
}

void main() {
  vec4 a = here(u_source), b = here(u_past_2), c = here(u_past_4), d = here(u_past_6), e = here(u_past_8);
  vec4 apart = vec4(late(u_red, a.r, b.r, c.r, d.r, e.r), late(u_green, a.g, b.g, c.g, d.g, e.g), late(u_blue, a.b, b.b, c.b, d.b, e.b), max(a.a, max(max(b.a, c.a), max(d.a, e.a))));
  o_colour = mix(a, apart, u_amount);
}
