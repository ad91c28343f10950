#include "guard.glsl"
uniform sampler2D u_tally, u_past;
uniform float u_across, u_down; // cells of the tally that a field of ten degrees covers
uniform float u_area, u_spread;

// Of each field: when much of it changed at once, and whether it has to be held back now.
void main() {
  ivec2 size = textureSize(u_tally, 0), field = ivec2(u_across, u_down);
  ivec2 corner = clamp(ivec2(gl_FragCoord.xy) - field / 2, ivec2(0), size - field);
  vec3 sum = vec3(0.0);
  for (int y = 0; y < field.y; y++)
    for (int x = 0; x < field.x; x++) sum += texelFetch(u_tally, corner + ivec2(x, y), 0).rgb;
  sum /= u_across * u_down;
  vec4 told = here(u_past);
  uint first = uint(told.x), second = uint(told.y);
  if (sum.b >= u_area && float(first & 63u) <= u_second - u_spread) {
    second = ((second << 6) & 4095u) | (first >> 18);
    first = ((first << 6) & 16777215u) | uint(u_second);
  }
  first = older(first, 4u, uint(u_steps));
  second = older(second, 2u, uint(u_steps));
  bool together = sum.r >= u_area && float(how_many(first, 4u) + how_many(second, 2u)) >= u_most_changes;
  o_colour = vec4(float(first), float(second), together ? 2.0 : sum.g >= u_area ? 1.0 : 0.0, 1.0);
}
