#include "vertex.glsl"
uniform float u_begins, u_sprite, u_sprite_size, u_end_size, u_level, u_coloured_by;
#include "ramp.glsl"
uniform vec3 u_tint, u_end_tint;
uniform usampler2D u_own;
uniform sampler2D u_picture, u_palette;
out vec2 v_corner;
out vec3 v_light;

void main() {
  uvec4 cell = texelFetch(u_own, ivec2(gl_InstanceID % 256, gl_InstanceID / 256), 0);
  float nearness = float(cell.z >> 8) / 40.0, share = float(cell.z & 255u) / 255.0;
  if (nearness == 0.0) { gl_Position = NOWHERE; return; }
  vec2 p = vec2(cell.xy) * (16.0 / 65535.0) - 8.0, last = vec2(float((cell.w >> 6) & 127u) / 127.0,
      float(cell.w & 63u) / 63.0);
  float shown = smoothstep(0.0, 0.08, share) * (1.0 - share * share);
  if (u_begins > 6.5) shown *= brightness(textureLod(u_picture, last, 0.0).rgb);
  vec2 corner = CORNERS[gl_VertexID];
  float radius = 0.5 * u_sprite_size * mix(1.0, u_end_size, share) * nearness, pixel = 1.0 / u_size.y;
  // What is smaller than a pixel is drawn as large as one, and so much darker.
  shown *= min(1.0, radius / pixel);
  radius = max(radius, pixel);
  vec2 out_by = corner * radius;
  if (u_sprite > 3.5 && u_begins < 6.5) {
    float a = last.x * 6.28318530718;
    vec2 way = vec2(cos(a), sin(a));
    out_by = way * corner.x * radius * (1.0 + 16.0 * last.y) + vec2(-way.y, way.x) * corner.y * radius * 0.4;
  }
  v_corner = corner;
  v_light = (u_coloured_by > 0.5 ? texelFetch(u_palette, ivec2(int(cell.w >> 13), 0), 0).rgb : u_ramped > 0.5 ? of_ramp(share).rgb : mix(u_tint, u_end_tint, share)) * shown * u_level;
  gl_Position = shown <= 0.0 ? NOWHERE : at_place(p + out_by);
}
