uniform float u_count, u_radius, u_spacing, u_width, u_softness, u_sides, u_rotation, u_twist, u_glow, u_rest;
uniform float u_level_1, u_level_2, u_level_3, u_level_4, u_level_5, u_level_6, u_level_7, u_level_8;
uniform vec3 u_inner, u_outer;
once vec4 line_ = line_of(u_width, u_softness, u_glow);
once float wedge = 6.28318530718 / floor(u_sides + 0.5);
once float flat_ = 1.0 / cos(0.5 * wedge);

void main() {
  // Levels move up one place with every ring: looked up by number they would cost as much as the ring itself.
  vec4 next = vec4(u_level_1, u_level_2, u_level_3, u_level_4), then = vec4(u_level_5, u_level_6, u_level_7,
      u_level_8);
  vec2 p = place();
  float middle = length(p), around = u_sides < 11.5 ? atan(p.y, p.x) - radians(u_rotation) : 0.0;
  vec3 sum = vec3(0.0);
  float cover = 0.0, count = floor(u_count + 0.5);
  for (int i = 0; i < 8; i++) {
    if (float(i) >= count) break;
    float away = middle;
    if (u_sides < 11.5) {
      float inside = (fract((around - radians(u_twist) * float(i)) / wedge + 0.5) - 0.5) * wedge,
          x = inside * inside;
      // The cosine, up to a third of a half turn.
      away *= (1.0 - x * (0.5 - x * (0.0416667 - x * 0.00138889))) * flat_;
    }
    float off = abs(away - (u_radius + u_spacing * float(i)));
    float light = line_light(off, line_) * (u_rest + (1.0 - u_rest) * next.x);
    next = vec4(next.yzw, then.x);
    then = then.yzwx;
    sum += mix(u_inner, u_outer, count > 1.0 ? float(i) / (count - 1.0) : 0.0) * light;
    cover = max(cover, light);
  }
  o_colour = vec4(sum, clamp(cover, 0.0, 1.0));
}
