uniform float u_sides, u_radius, u_star, u_filled, u_width, u_softness, u_rotation, u_glow, u_level;
uniform vec3 u_tint;
// A star's edge runs from a corner to the point between two: at depth 0 that is the polygon's own edge.
once float wedge = 3.14159265359 / floor(u_sides + 0.5);
once vec2 corner = vec2(u_radius, 0.0);
once vec2 dip = u_radius * cos(wedge) * (1.0 - u_star) * vec2(cos(wedge), sin(wedge));
once vec4 line_ = line_of(u_width, u_softness, u_glow);
once vec2 outward = vec2(corner.y - dip.y, dip.x - corner.x) / max(length(dip - corner), 1e-6);

void main() {
  vec2 p = place();
  float away = length(p), off;
  if (u_sides >= 11.5) {
    off = away - u_radius;
  } else {
    float inside = abs(mod(atan(p.x, p.y) - radians(u_rotation) + wedge, 2.0 * wedge) - wedge);
    off = -dot(outward, away * vec2(cos(inside), sin(inside)) - corner);
  }
  float pixel = 2.0 / u_size.y;
  float outside = max(off, 0.0), spill = u_glow * fall(outside * outside / 0.05);
  float light = u_filled > 0.5 ? max(1.0 - smoothstep(-max(u_softness * u_radius, pixel), pixel, off),
      spill) : line_light(abs(off), line_);
  light *= u_level;
  o_colour = vec4(u_tint * light, clamp(light, 0.0, 1.0));
}
