#include "lit.glsl"
uniform float u_through;
in float v_light;

void main() {
  vec3 light = lit() * v_light;
  o_colour = vec4(light, u_through > 0.5 ? clamp(max(light.r, max(light.g, light.b)), 0.0, 1.0) : how_sharp());
}
