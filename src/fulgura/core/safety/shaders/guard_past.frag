#include "guard.glsl"
uniform sampler2D u_in, u_out, u_before, u_past, u_share;

// Takes down what the last picture did, and how long already the coming one wants something else.
void main() {
  vec3 coming = here(u_in).rgb, shown = here(u_out).rgb;
  Past past = past_of(here(u_past));
  if (!past.known) {
    o_colour = told_of(
        Past(true, true, true, false, saturated_red(coming), true, luminance(coming), luminance(coming),
            red_glow(coming), 0.0, 0.0, chromaticity(coming), 0u, 0u));
    return;
  }
  float now = luminance(shown), last = luminance(here(u_before).rgb);
  bool bright = brightness_moves(now, past), way = way_moves(now, last, past);
  bool hue = hue_moves(shown, past), glows = glow_moves(shown, past);
  if (bright || way || hue || glows) {
    past.second = ((past.second << 6) & 4095u) | (past.first >> 18);
    past.first = ((past.first << 6) & 16777215u) | uint(u_second);
  }
  past.first = older(past.first, 4u, uint(u_steps));
  past.second = older(past.second, 2u, uint(u_steps));
  bool on = goes_on(now, last, past);
  past.begun = on ? past.begun : last;
  past.counted = bright || way || (on && past.counted);
  if (bright) {
    past.rising = now > past.extreme;
    past.fresh = false;
    past.extreme = now;
  } else if (!past.fresh) past.extreme = past.rising ? max(past.extreme, now) : min(past.extreme, now);
  float glow = red_glow(shown);
  if (glows) {
    past.kindling = !past.kindling;
    past.glow = glow;
  } else past.glow = past.kindling ? max(past.glow, glow) : min(past.glow, glow);
  if (hue) {
    past.colour = chromaticity(shown);
    past.red = saturated_red(shown);
  }
  past.waits = moves(coming, shown, past) ? min(past.waits + u_steps, 15.0) : 0.0;
  past.calm = here(u_share).r > 0.0 ? u_held : max(past.calm - u_steps, 0.0);
  o_colour = told_of(past);
}
