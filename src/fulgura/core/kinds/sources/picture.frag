uniform float u_fit, u_zoom, u_level;
uniform vec3 u_tint;
uniform sampler2D u_file;
#include "fitted.glsl"

void main() {
  float seen;
  vec2 at = fitted(u_file, u_fit, u_zoom, seen);
  vec4 c = texture(u_file, at) * seen;
  o_colour = vec4(c.rgb * u_tint * u_level, c.a);
}
