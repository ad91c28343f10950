#version 300 es
// One triangle that covers the picture: no vertex buffer needed.
out vec2 v_uv;
void main() {
  vec2 corner = vec2(gl_VertexID == 1 ? 2.0 : 0.0, gl_VertexID == 2 ? 2.0 : 0.0);
  v_uv = corner;
  gl_Position = vec4(corner * 2.0 - 1.0, 0.0, 1.0);
}
