#include "guard.glsl"
uniform sampler2D u_in, u_out, u_past, u_share;

// Takes down what the last picture did, and how long already the coming one wants something else.
void main() {
  vec3 coming = here(u_in).rgb, shown = here(u_out).rgb;
  Past past = past_of(here(u_past));
  if (!past.known) {
    o_colour = told_of(
        Past(true, true, true, saturated_red(coming), luminance(coming), 0.0, 0.0, chromaticity(coming), 0u, 0u));
    return;
  }
  bool bright = brightness_moves(shown, past), red = red_moves(shown, past);
  if (bright || red) {
    past.second = ((past.second << 6) & 4095u) | (past.first >> 18);
    past.first = ((past.first << 6) & 16777215u) | uint(u_second);
  }
  past.first = older(past.first, 4u, uint(u_steps));
  past.second = older(past.second, 2u, uint(u_steps));
  float now = luminance(shown);
  if (bright) {
    past.rising = now > past.extreme;
    past.fresh = false;
    past.extreme = now;
  } else if (!past.fresh) past.extreme = past.rising ? max(past.extreme, now) : min(past.extreme, now);
  if (red) {
    past.colour = chromaticity(shown);
    past.red = saturated_red(shown);
  }
  past.waits = moves(coming, past) ? min(past.waits + u_steps, 15.0) : 0.0;
  past.calm = here(u_share).r > 0.0 ? u_held : max(past.calm - u_steps, 0.0);
  o_colour = told_of(past);
}
