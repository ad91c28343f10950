uniform sampler2D u_source, u_past_2, u_past_4, u_past_6, u_past_8;
uniform float u_red, u_green, u_blue, u_amount;

// One picture in two is kept: between those, both are mixed. How late is seldom moved, and then only what is
// wanted is read.
vec4 late(float by) {
  float n = by * 0.5;
  if (n < 1.0) return mix(here(u_source), here(u_past_2), n);
  if (n < 2.0) return mix(here(u_past_2), here(u_past_4), n - 1.0);
  if (n < 3.0) return mix(here(u_past_4), here(u_past_6), n - 2.0);
  return mix(here(u_past_6), here(u_past_8), n - 3.0);
}

void main() {
  vec4 red = late(u_red), green = late(u_green), blue = late(u_blue);
  vec4 apart = vec4(red.r, green.g, blue.b, max(red.a, max(green.a, blue.a)));
  o_colour = u_amount == 1.0 ? apart : mix(here(u_source), apart, u_amount);
}
