uniform float u_style, u_scale, u_drift, u_rotation, u_seed, u_detail, u_contrast, u_level;
uniform vec3 u_dark, u_bright;
once vec2 drift = vec2(cos(radians(u_rotation)), sin(radians(u_rotation))) * u_drift * u_time + 64.0;

// Gradient noise after K. Perlin, "An image synthesizer" (SIGGRAPH 1985), with the quintic fade of "Improving
// noise" (2002).
vec2 slope(vec2 cell) { float h = hash(cell + u_seed * 17.0); return 2.4 * vec2(h, fract(h * 47.0)) - 1.2; }
float gradient_noise(vec2 p) {
  vec2 c = floor(p), f = fract(p), w = f * f * f * (f * (f * 6.0 - 15.0) + 10.0);
  float a = dot(slope(c), f), b = dot(slope(c + vec2(1, 0)), f - vec2(1, 0)), d = dot(slope(c + vec2(0, 1)),
      f - vec2(0, 1)), e = dot(slope(c + 1.0), f - 1.0);
  return 0.5 + 0.7 * mix(mix(a, b, w.x), mix(d, e, w.x), w.y);
}
// Cellular noise after S. Worley, "A cellular texture basis function" (SIGGRAPH 1996): distance to the
// nearest point.
float cellular(vec2 p) {
  vec2 c = floor(p), f = fract(p);
  float nearest = 2.0;
  for (int y = -1; y <= 1; y++) for (int x = -1; x <= 1; x++) {
    vec2 o = vec2(x, y), q = c + o;
    nearest = min(nearest, length(o + vec2(hash(q + u_seed * 17.0), hash(q + 91.7 + u_seed * 17.0)) - f));
  }
  return 1.0 - min(nearest, 1.0);
}

void main() {
  vec2 p = place() * u_scale + drift;
  float n;
  if (u_style < 0.5) n = gradient_noise(p);
  else if (u_style < 1.5) n = cellular(p);
  else {
    // Octaves of half the height and twice the frequency each.
    float sum = 0.0, height = 0.5;
    for (float k = 0.0; k < 5.0; k++) { if (k >= floor(u_detail + 0.5)) break; sum += height *
        (gradient_noise(p) - 0.5); p = p * 2.0 + 31.4; height *= 0.5; }
    n = 0.5 + 1.4 * sum;
  }
  n = clamp((n - 0.5) * u_contrast + 0.5, 0.0, 1.0);
  o_colour = vec4(mix(u_dark, u_bright, n) * u_level, 1.0);
}
