uniform float u_form, u_rotation, u_offset, u_repeats, u_curve, u_level;
#include "ramp.glsl"
uniform vec3 u_from_colour, u_middle_colour, u_to_colour;
once mat2 back = turn(-u_rotation);

void main() {
  vec2 p = back * place();
  float at = u_form < 0.5 ? p.x / (u_size.x / u_size.y) * 0.5 + 0.5 : u_form < 1.5 ? length(p) : atan(p.y,
      p.x) / 6.28318530718 + 0.5;
  at = at * u_repeats + u_offset;
  // There and back, so that no edge shows where it begins anew.
  at = 1.0 - abs(1.0 - mod(at, 2.0));
  if (u_curve != 1.0) at = pow(at, u_curve);
  if (u_ramped > 0.5) { vec4 c = of_ramp(at); o_colour = vec4(c.rgb * u_level, c.a); return; }
  vec3 c = at < 0.5 ? mix(u_from_colour, u_middle_colour, at * 2.0) : mix(u_middle_colour, u_to_colour,
      at * 2.0 - 1.0);
  o_colour = vec4(c * u_level, 1.0);
}
