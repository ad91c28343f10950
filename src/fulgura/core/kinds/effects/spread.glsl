// Light of a line of places around this one, less and less of it: a Gaussian curve that is nearly 0 at both
// ends (t = 1).
vec4 spread(sampler2D from, vec2 end) {
  vec4 sum = texture(from, v_uv);
  float weight = 1.0;
  for (int i = 1; i <= 6; i++) {
    float t = float(i) / 6.5, w = exp(-4.5 * t * t);
    sum += w * (texture(from, v_uv + t * end) + texture(from, v_uv - t * end));
    weight += 2.0 * w;
  }
  return sum / weight;
}
