// Where a pixel lies in a picture that is fitted into the target (fit 0: fills it, 1: whole, 2: stretched),
// and whether it lies there at all.
vec2 fitted(sampler2D picture, float fit, float zoom, out float seen) {
  vec2 size = vec2(textureSize(picture, 0));
  float wide = (size.x / size.y) / (u_size.x / u_size.y);
  vec2 by = fit < 0.5 ? vec2(max(wide, 1.0), max(1.0 / wide, 1.0)) : fit < 1.5 ? vec2(min(wide, 1.0),
      min(1.0 / wide, 1.0)) : vec2(1.0);
  vec2 at = (v_uv - 0.5) / (by * zoom) + 0.5, inside = step(0.0, at) * step(at, vec2(1.0));
  seen = inside.x * inside.y;
  return at;
}
