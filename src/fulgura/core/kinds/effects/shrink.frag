uniform sampler2D u_source;

// To a quarter of the size each way: four taps between the pixels take in all sixteen.
void main() {
  vec2 by = 0.25 / u_size;
  o_colour = 0.25 * (texture(u_source, v_uv + vec2(by.x, by.y)) + texture(u_source, v_uv + vec2(-by.x,
      by.y)) + texture(u_source, v_uv + vec2(by.x, -by.y)) + texture(u_source, v_uv - by));
}
