uniform sampler2D u_source;
uniform float u_amount, u_offset;
#include "ramp.glsl"
uniform vec3 u_dark, u_middle, u_bright;

void main() {
  vec4 c = here(u_source);
  // As bright as it looks: the square root is near enough; a ramp has exact places.
  float light = clamp(dot(c.rgb, vec3(0.2126, 0.7152, 0.0722)), 0.0, 1.0);
  float grey = u_ramped > 0.5 ? encoded(vec3(light)).r : sqrt(light);
  if (u_offset != 0.0) grey = fract(grey * 0.999 + u_offset);
  vec4 mapped = c.a * (u_ramped > 0.5 ? of_ramp(grey) : vec4(grey < 0.5 ? mix(u_dark, u_middle, grey * 2.0) :
      mix(u_middle, u_bright, grey * 2.0 - 1.0), 1.0));
  o_colour = u_amount == 1.0 ? mapped : mix(c, mapped, u_amount);
}
