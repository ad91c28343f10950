#include "vertex.glsl"
#include "camera.glsl"
uniform float u_form, u_height, u_waves, u_pace, u_twist, u_skin;
#include "ramp.glsl"
uniform vec3 u_tint;
uniform sampler2D u_picture;
out vec3 v_normal, v_place, v_skin;
out float v_bright;

vec3 rest(vec2 at, out vec3 normal) {
  if (u_form < 0.5) { normal = vec3(0.0, 0.0, 1.0); return vec3((at * 2.0 - 1.0) * vec2(1.78, 1.0), 0.0); }
  float a = (at.x - 0.5) * 6.28318530718;
  if (u_form < 1.5) { normal = vec3(sin(a), 0.0, cos(a)); return vec3(0.6 * sin(a), at.y * 2.0 - 1.0,
      0.6 * cos(a)); }
  float b = (at.y - 0.5) * 3.14159265359;
  normal = vec3(cos(b) * sin(a), sin(b), cos(b) * cos(a));
  return 0.75 * normal;
}
// The picture is read there and back around what is round, so that it has no seam.
vec2 on_picture(vec2 at) { return u_form < 0.5 ? at : vec2(1.0 - abs(at.x * 2.0 - 1.0), at.y); }
float pushed(vec2 at, vec3 p) {
  float t = u_time * u_pace;
  float waves = sin(p.x * 3.1 + t) * cos(p.y * 2.7 - 0.8 * t) + 0.5 * sin(p.z * 4.3 + p.y * 3.3 + 1.3 * t) +
      0.35 * sin(p.x * 6.7 - p.y * 5.1 - 0.6 * t);
  return brightness(textureLod(u_picture, on_picture(at), 0.0).rgb) + u_waves * 0.3 * waves;
}
vec3 surface(vec2 at) {
  vec3 normal, p = rest(at, normal);
  p += normal * u_height * pushed(at, p);
  float a = radians(u_twist) * 0.5 * p.y;
  return vec3(cos(a) * p.x + sin(a) * p.z, p.y, cos(a) * p.z - sin(a) * p.x);
}

void main() {
  int quad = gl_VertexID / 6;
  vec2 at = (vec2(float(quad % 72), float(quad / 72)) + CORNERS[gl_VertexID % 6] * 0.5 + 0.5) / vec2(72.0,
      40.0);
  vec3 unused, p = surface(at);
  vec3 across = surface(at + vec2(1.0 / 72.0, 0.0)) - surface(at - vec2(1.0 / 72.0, 0.0)),
      upward = surface(at + vec2(0.0, 1.0 / 40.0)) - surface(at - vec2(0.0, 1.0 / 40.0));
  vec3 normal = cross(across, upward);
  v_normal = to_camera(length(normal) > 1e-9 ? normalize(normal) : vec3(0.0, 0.0, 1.0));
  v_place = to_camera(p);
  v_bright = clamp(pushed(at, rest(at, unused)), 0.0, 1.0);
  v_skin = u_ramped > 0.5 ? of_ramp(v_bright).rgb : mix(u_tint, textureLod(u_picture, on_picture(at), 0.0).rgb, u_skin * step(0.001, v_bright));
  gl_Position = seen(v_place);
}
