uniform float u_sides, u_radius, u_wide, u_tall, u_star, u_filled, u_width, u_softness, u_rotation, u_glow, u_level;
uniform vec3 u_tint;
// A star's edge runs from a corner to the point between two: at depth 0 that is the polygon's own edge.
once float corners = floor(u_sides + 0.5);
once float wedge = 3.14159265359 / corners;
// What has as many corners left as right stands on a side, not on a corner.
once float first = mod(corners, 2.0) < 0.5 ? wedge : 0.0;
once vec2 corner = vec2(u_radius, 0.0);
once vec2 dip = u_radius * cos(wedge) * (1.0 - u_star) * vec2(cos(wedge), sin(wedge));
once vec4 line_ = line_of(u_width, u_softness, u_glow);
once vec2 outward = vec2(corner.y - dip.y, dip.x - corner.x) / max(length(dip - corner), 1e-6);
once mat2 back = turn(u_rotation);
once vec2 size = max(vec2(u_wide, u_tall), 1e-3);

void main() {
  vec2 p = back * place() / size, slope;
  float away = length(p), off;
  if (u_sides >= 11.5) {
    off = away - u_radius;
    slope = p / max(away, 1e-6);
  } else {
    float angle = atan(p.x, p.y) - first, at = 2.0 * wedge * floor(angle / (2.0 * wedge) + 0.5);
    float inside = angle - at;
    off = -dot(outward, away * vec2(cos(inside), sin(abs(inside))) - corner);
    vec2 ahead = vec2(sin(at + first), cos(at + first));
    slope = outward.x * ahead + outward.y * sign(inside) * vec2(ahead.y, -ahead.x);
  }
  // A shape that is drawn out is farther from its edge by as much as it is drawn out that way.
  off /= length(slope / size);
  float pixel = 2.0 / u_size.y;
  float outside = max(off, 0.0), spill = u_glow * fall(outside * outside / 0.05);
  float light = u_filled > 0.5 ? max(1.0 - smoothstep(-max(u_softness * u_radius, pixel), pixel, off),
      spill) : line_light(abs(off), line_);
  light *= u_level;
  o_colour = vec4(u_tint * light, clamp(light, 0.0, 1.0));
}
