#include "vertex.glsl"
uniform float u_shows, u_swing, u_rotation, u_width, u_thin, u_glow;
uniform sampler2D u_own;
out float v_across, v_light;

vec2 point(int i) {
  float left = texelFetch(u_own, ivec2(i, 0), 0).r, right = texelFetch(u_own, ivec2(i, 1), 0).r;
  if (u_shows < 0.5) return turned(vec2(right, left) * u_swing * 0.70710678, u_rotation);
  return turned(vec2((float(i) / 1023.0 * 2.0 - 1.0) * u_size.x / u_size.y, 0.5 * (left + right) * u_swing),
      u_rotation - 45.0);
}

void main() {
  vec2 a = point(gl_InstanceID), b = point(gl_InstanceID + 1), way = b - a;
  float fast = length(way);
  float slow = 1.0 / (1.0 + u_thin * 60.0 * fast);
  // Light spills as far as the glow reaches; the beam itself is the middle of the strip.
  float reach = 0.5 * u_width * mix(1.0, slow, 0.6) * (1.0 + 5.0 * u_glow);
  vec2 along = fast > 1e-6 ? way / fast : vec2(1.0, 0.0), side = vec2(-along.y, along.x);
  vec2 corner = CORNERS[gl_VertexID];
  v_across = corner.y * (1.0 + 5.0 * u_glow);
  v_light = slow;
  gl_Position = at_place((corner.x < 0.0 ? a : b) + along * corner.x * 0.25 * reach + side * corner.y *
      reach);
}
