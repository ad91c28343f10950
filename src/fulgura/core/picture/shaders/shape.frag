uniform float u_sides, u_radius, u_star, u_filled, u_width, u_softness, u_turn, u_glow, u_level;
uniform vec3 u_tint;

void main() {
  vec2 p = place();
  float angle = atan(p.x, p.y) - radians(u_turn), away = length(p);
  float sides = floor(u_sides + 0.5), off;
  if (sides > 11.5) {
    off = away - u_radius;
  } else {
    // A star's edge runs from a corner to the point between two: at depth 0 that is the polygon's own edge.
    float wedge = 3.14159265359 / sides;
    float inside = abs(mod(angle + wedge, 2.0 * wedge) - wedge);
    vec2 corner = vec2(u_radius, 0.0), dip = u_radius * cos(wedge) * (1.0 - u_star) * vec2(cos(wedge), sin(wedge));
    vec2 q = away * vec2(cos(inside), sin(inside)), edge = dip - corner;
    off = (edge.x * (q.y - corner.y) - edge.y * (q.x - corner.x)) / length(edge);
    off = -off;
  }
  float pixel = 2.0 / u_size.y;
  float outside = max(off, 0.0), spill = u_glow * fall(outside * outside / 0.05);
  float light = u_filled > 0.5 ? max(1.0 - smoothstep(-max(u_softness * u_radius, pixel), pixel, off), spill) : line_light(abs(off), u_width, u_softness, u_glow);
  light *= u_level;
  o_colour = vec4(u_tint * light, clamp(light, 0.0, 1.0));
}
