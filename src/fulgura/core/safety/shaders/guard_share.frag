#include "guard.glsl"
uniform sampler2D u_in, u_out, u_past, u_gates;
uniform float u_light;

// How much of the last picture a cell keeps: the least that makes no change of it.
void main() {
  o_colour = vec4(0.0, 0.0, 0.0, 1.0);
  ivec2 each = ivec2(u_size) / textureSize(u_gates, 0);
  float gate = texelFetch(u_gates, ivec2(gl_FragCoord.xy) / each, 0).r;
  Past past = past_of(here(u_past));
  if (gate == 0.0 || past.waits == 0.0 || u_light == 0.0) return; // Dark passes at once, always.
  float many = float(how_many(past.first, 4u) + how_many(past.second, 2u));
  if (gate < 2.0 && many < u_most_changes && (past.calm == 0.0 || past.waits >= u_steady)) return;
  vec3 coming = here(u_in).rgb, shown = here(u_out).rgb;
  float low = 0.0, high = 1.0;
  for (int i = 0; i < 6; i++) {
    float middle = 0.5 * (low + high);
    if (moves(mix(coming, shown, middle), shown, past)) low = middle;
    else high = middle;
  }
  o_colour.r = high;
}
