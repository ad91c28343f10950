uniform sampler2D u_source;
uniform float u_threshold;

// What is brighter than the threshold, by how much it is, at a quarter of the size each way.
vec4 bright(vec2 at) {
  vec4 c = texture(u_source, at);
  return c * smoothstep(u_threshold, u_threshold + 0.5, max(c.r, max(c.g, c.b)));
}
void main() {
  vec2 by = 0.25 / u_size;
  o_colour = 0.25 * (bright(v_uv + vec2(by.x, by.y)) + bright(v_uv + vec2(-by.x,
      by.y)) + bright(v_uv + vec2(by.x, -by.y)) + bright(v_uv - by));
}
