uniform float u_fit, u_zoom, u_mirrored, u_level, u_beats;
uniform vec3 u_tint;
uniform sampler2D u_device;
#include "fitted.glsl"
once vec2 hand = vec2(sin(u_beats * 1.57079632679), cos(u_beats * 1.57079632679));

// The stand-in for a camera: steps of grey and colour, a grid with a circle, and a hand that goes round once
// a bar.
vec3 test_card() {
  vec2 p = place();
  vec2 cell = abs(fract(p * 4.0 + 0.5) - 0.5);
  vec3 c = mix(vec3(0.05, 0.045, 0.06), vec3(0.25), 1.0 - smoothstep(0.0, 12.0 / u_size.y, min(cell.x,
      cell.y)));
  float column = floor(v_uv.x * 8.0);
  if (abs(p.y - 0.55) < 0.15) c = vec3(pow(column / 7.0, 2.2));
  if (abs(p.y + 0.55) < 0.15) c = mix(vec3(0.9, 0.21, 0.1), vec3(0.24, 0.57, 1.0),
      column / 7.0) * (mod(column, 2.0) < 0.5 ? 0.9 : 0.45);
  float r = length(p), pixel = 3.0 / u_size.y;
  c = mix(c, vec3(0.9, 0.85, 0.7), 1.0 - smoothstep(0.008, 0.008 + pixel, abs(r - 0.9)));
  float off = length(p - hand * clamp(dot(p, hand), 0.0, 0.86));
  return mix(c, vec3(1.0, 0.7, 0.1), 1.0 - smoothstep(0.012, 0.012 + pixel, off));
}

void main() {
  vec3 c;
  float seen = 1.0;
  if (textureSize(u_device, 0).x > 1) {
    vec2 at = fitted(u_device, u_fit, u_zoom, seen);
    if (u_mirrored > 0.5) at.x = 1.0 - at.x;
    c = texture(u_device, at).rgb * seen;
  } else c = test_card();
  o_colour = vec4(c * u_tint * u_level, seen);
}
