#include "vertex.glsl"
#include "camera.glsl"
uniform float u_form, u_height, u_ends, u_around, u_upward, u_columns, u_waves, u_pace, u_twist, u_twist_at,
    u_twist_2, u_twist_2_at, u_skin, u_skin_contrast, u_glow_contrast, u_hollows, u_hollows_contrast, u_by, u_span,
    u_own_newest;
#include "ramp.glsl"
uniform vec3 u_tint;
uniform sampler2D u_picture, u_own;
out vec3 v_normal, v_place, v_skin;
out float v_bright, v_shade;

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
vec2 on_picture(vec2 at) {
  vec2 often = floor(vec2(u_around, u_upward) + 0.5);
  // Every other copy is a mirror image: none has an edge.
  vec2 copies = 1.0 - abs(1.0 - mod(at * often, 2.0));
  if (u_form < 0.5) return copies;
  return vec2(1.0 - abs(1.0 - mod(at.x * 2.0 * often.x, 2.0)), copies.y);
}
// What pushes it out there: a picture's light, or how loud a pitch was how long ago: the past goes upward.
vec3 pushing(vec2 at) {
  vec2 on = on_picture(at);
  if (u_by < 0.5) return textureLod(u_picture, on, 0.0).rgb;
  float row = (u_own_newest + 0.5 - on.y * min(u_span - 1.0, 2046.0)) / 2048.0;
  return vec3(textureLod(u_own, vec2(on.x, row), 0.0).r);
}
// How much of the push is left there: none at its ends, where a ball's poles are and a tube's rims.
float left(vec2 at) {
  float away = min(at.y, 1.0 - at.y);
  if (u_form < 0.5) away = min(away, min(at.x, 1.0 - at.x));
  return u_ends > 0.0 ? smoothstep(0.0, u_ends, away) : 1.0;
}
float pushed(vec2 at, vec3 p) {
  float t = u_time * u_pace;
  float waves = sin(p.x * 3.1 + t) * cos(p.y * 2.7 - 0.8 * t) + 0.5 * sin(p.z * 4.3 + p.y * 3.3 + 1.3 * t) +
      0.35 * sin(p.x * 6.7 - p.y * 5.1 - 0.6 * t);
  return left(at) * (brightness(pushing(at)) + u_waves * 0.3 * waves);
}
vec3 surface(vec2 at) {
  vec3 normal, p = rest(at, normal);
  p += normal * u_height * pushed(at, p);
  float a = radians(u_twist) * 0.5 * (p.y - u_twist_at);
  p = vec3(cos(a) * p.x + sin(a) * p.z, p.y, cos(a) * p.z - sin(a) * p.x);
  float b = radians(u_twist_2) * 0.5 * (p.x - u_twist_2_at);
  return vec3(p.x, cos(b) * p.y - sin(b) * p.z, sin(b) * p.y + cos(b) * p.z);
}

void main() {
  int quad = gl_VertexID / 6, columns = int(u_columns + 0.5);
  vec2 pieces = vec2(float(columns), max(1.0, floor(float(columns) * 9.0 / 16.0 + 0.5))), piece = 1.0 / pieces;
  if (quad >= int(pieces.x * pieces.y)) { gl_Position = NOWHERE; return; }
  vec2 at = (vec2(float(quad % columns), float(quad / columns)) + CORNERS[gl_VertexID % 6] * 0.5 + 0.5) * piece;
  vec3 unused, p = surface(at);
  vec3 across = surface(at + vec2(piece.x, 0.0)) - surface(at - vec2(piece.x, 0.0)),
      upward = surface(at + vec2(0.0, piece.y)) - surface(at - vec2(0.0, piece.y));
  vec3 normal = cross(across, upward);
  v_normal = to_camera(length(normal) > 1e-9 ? normalize(normal) : vec3(0.0, 0.0, 1.0));
  v_place = to_camera(p);
  float bright = clamp(pushed(at, rest(at, unused)), 0.0, 1.0), coloured = pow(bright, u_skin_contrast);
  v_bright = pow(bright, u_glow_contrast);
  v_shade = mix(1.0, pow(bright, u_hollows_contrast), u_hollows);
  v_skin = u_ramped > 0.5 ? of_ramp(coloured).rgb :
      mix(u_tint, u_by < 0.5 ? pushing(at) : u_tint, u_skin * coloured / (coloured + 0.001));
  gl_Position = seen(v_place);
}
