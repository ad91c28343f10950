#include "vertex.glsl"
#include "camera.glsl"
uniform float u_solid, u_form, u_columns, u_rows, u_solid_size, u_by, u_grow, u_lift, u_twirl, u_skin;
uniform vec3 u_tint;
uniform sampler2D u_picture, u_own;
out vec3 v_normal, v_place, v_skin;
out float v_bright;
#include "solids.glsl"

void main() {
  int columns = int(u_columns + 0.5), rows = int(u_rows + 0.5);
  vec3 at, normal;
  if (gl_InstanceID >= columns * rows || !corner_of(gl_VertexID, at,
      normal)) { gl_Position = NOWHERE; return; }
  vec2 share = (vec2(float(gl_InstanceID % columns), float(gl_InstanceID / columns)) + 0.5) /
      vec2(float(columns), float(rows));
  vec4 read = textureLod(u_picture, share, 0.0);
  float bright = u_by > 0.5 ? brightness(read.rgb) : texelFetch(u_own, ivec2(gl_InstanceID % columns, 0), 0).r;
  // A band lights its column from the bottom up.
  if (u_by < 0.5) bright = clamp((bright * 1.3 - share.y) * float(rows) * 0.5 + 0.5, 0.0, 1.0) * bright;
  float a = radians(u_twirl) * bright;
  mat3 spin = mat3(cos(a), 0.0, -sin(a), 0.0, 1.0, 0.0, sin(a), 0.0, cos(a)) * mat3(1.0, 0.0, 0.0, 0.0,
      cos(a), sin(a), 0.0, -sin(a), cos(a));
  vec3 place = vec3((share * 2.0 - 1.0) * vec2(1.6, 0.9), u_lift * bright);
  if (u_form > 0.5) {
    float b = share.x * 6.28318530718, radius = mix(0.35, 0.95, share.y) + u_lift * bright * 0.4;
    place = vec3(radius * sin(b), -radius * cos(b), u_lift * bright);
  }
  vec3 p = to_camera(place + spin * at * u_solid_size * mix(1.0, bright, u_grow));
  v_normal = to_camera(spin * normal);
  v_place = p;
  v_bright = bright;
  v_skin = mix(u_tint, u_by > 0.5 ? read.rgb : u_tint, u_skin);
  gl_Position = seen(p);
}
