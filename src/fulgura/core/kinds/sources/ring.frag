uniform float u_radius, u_width, u_softness, u_sides, u_rotation, u_ripple, u_glow, u_level;
uniform vec3 u_tint;
uniform sampler2D u_waveform;
once vec4 line_ = line_of(u_width, max(u_softness, 4.0 / (u_width * u_size.y)), u_glow);
once float wedge = 6.28318530718 / floor(u_sides + 0.5);
once float flat_ = 1.0 / cos(0.5 * wedge);

void main() {
  vec2 p = place();
  float away = length(p);
  float angle = u_sides < 11.5 || u_ripple > 0.0 ? atan(p.y, p.x) - radians(u_rotation) : 0.0;
  float radius = u_radius;
  // Below 12 sides the distance to a polygon's edge takes the place of the distance to the centre.
  if (u_sides < 11.5) {
    float inside = mod(angle + 0.5 * wedge, wedge) - 0.5 * wedge;
    away *= cos(inside) * flat_;
  }
  if (u_ripple > 0.0) {
    // The wave runs around the ring and back again, so that both its ends meet.
    float along = abs(fract(angle / 6.28318530718 + 0.25) * 2.0 - 1.0);
    radius += u_ripple * texture(u_waveform, vec2(along, 0.5)).r;
  }
  float off = abs(away - radius);
  float light = u_level * line_light(off, line_);
  o_colour = vec4(u_tint * light, clamp(light, 0.0, 1.0));
}
