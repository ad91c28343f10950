#include "spread.glsl"
uniform sampler2D u_source;
uniform float u_form, u_radius, u_rotation;

// Even: first across (then up). Along and outward: first in wide steps (then in small ones between them).
void main() {
  float tall = 0.5 * u_radius, wide = tall * u_size.y / u_size.x, a = radians(u_rotation);
  if (u_form < 0.5) o_colour = spread(u_source, vec2(wide, 0.0));
  else if (u_form < 1.5) o_colour = spread(u_source, vec2(cos(a) * wide, sin(a) * tall));
  else o_colour = spread(u_source, (place_to_uv(place() * (1.0 - u_radius)) - v_uv) * 0.7);
}
