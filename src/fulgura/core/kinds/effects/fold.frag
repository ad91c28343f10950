uniform sampler2D u_source;
uniform float u_form, u_count, u_rotation, u_zoom;
once vec2 seen = vec2(cos(radians(u_rotation)), sin(radians(u_rotation)));
once float wedge = 3.14159265359 / max(1.0, floor(u_count + 0.5));

void main() {
  vec2 p = place();
  if (u_form < 0.5) p.x = -abs(p.x);
  else if (u_form < 1.5) p.y = abs(p.y);
  else if (u_form < 2.5) p = vec2(-abs(p.x), abs(p.y));
  else {
    // A kaleidoscope: every wedge is the first one, each second one turned over.
    float away = length(p);
    float a = atan(p.y, p.x) - radians(u_rotation);
    a = abs(mod(a + wedge, 2.0 * wedge) - wedge);
    // Cosine and sine of up to a quarter turn, within a ten-thousandth (least squares).
    float q = a * a, c = 1.0 - q * (0.49997 - q * (0.041496 - q * 0.00127)),
        s = a * (1.0 - q * (0.16666 - q * (0.0083143 - q * 0.00018542)));
    p = away * (c * seen + s * vec2(-seen.y, seen.x));
  }
  vec2 at = place_to_uv(p / u_zoom);
  at = 1.0 - abs(1.0 - mod(at, 2.0));
  o_colour = texture(u_source, at);
}
