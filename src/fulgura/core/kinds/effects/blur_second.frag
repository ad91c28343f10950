#include "spread.glsl"
uniform sampler2D u_source;
uniform float u_form, u_radius, u_rotation;

void main() {
  float tall = 0.5 * u_radius, wide = tall * u_size.y / u_size.x, a = radians(u_rotation);
  if (u_form < 0.5) o_colour = spread(u_source, vec2(0.0, tall));
  else if (u_form < 1.5) o_colour = spread(u_source, vec2(cos(a) * wide, sin(a) * tall) / 6.5);
  else o_colour = spread(u_source, (place_to_uv(place() * (1.0 - u_radius)) - v_uv) * 0.7 / 6.5);
}
