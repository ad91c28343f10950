uniform sampler2D u_source, u_previous;
uniform float u_every, u_hold, u_beats;
// The last share of each stretch is held: what stands then is the picture of when it began.
once float phase = fract(u_beats / exp2(u_every - 2.0));

void main() {
  o_colour = phase >= 1.0 - u_hold ? here(u_previous) : here(u_source);
}
