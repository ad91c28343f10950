#include "vertex.glsl"
uniform float u_wave, u_pace;
uniform sampler2D u_own;
out vec2 v_at;

void main() {
  vec4 box = texelFetch(u_own, ivec2(2 * gl_InstanceID, 0), 0), sheet = texelFetch(u_own,
      ivec2(2 * gl_InstanceID + 1, 0), 0);
  if (box.z <= 0.0) { gl_Position = NOWHERE; return; }
  vec2 corner = CORNERS[gl_VertexID] * 0.5 + 0.5;
  v_at = sheet.xy + corner * sheet.zw;
  gl_Position = at_place(box.xy + corner * box.zw + vec2(0.0,
      u_wave * sin(u_time * u_pace * 3.0 + float(gl_InstanceID) * 0.7)));
}
