#include "fit.glsl"
uniform sampler2D u_source;
uniform float u_whole, u_walls, u_masks, u_first, u_clear_ground, u_blends;

// How far a place is from a polygon's edge, less than nothing inside; in heights of the output.
float distance_to(int first, int points, vec2 place, float wide) {
  vec2 before = fit(first + points - 1).xy * vec2(wide, 1.0);
  float least = 1e9;
  bool inside = false;
  for (int i = 0; i < points; i++) {
    vec2 here_is = fit(first + i).xy * vec2(wide, 1.0), along = before - here_is, off = place - here_is;
    vec2 nearest = off - along * clamp(dot(off, along) / max(dot(along, along), 1e-12), 0.0, 1.0);
    least = min(least, dot(nearest, nearest));
    if ((here_is.y > place.y) != (before.y > place.y) &&
        place.x < (before.x - here_is.x) * (place.y - here_is.y) / (before.y - here_is.y) + here_is.x)
      inside = !inside;
    before = here_is;
  }
  return inside ? -sqrt(least) : sqrt(least);
}

// What of the light of a place passes the masks: within any that keep their inside, without those that keep
// their outside.
float passed(vec2 place) {
  float wide = u_size.x / u_size.y, kept = -1.0, left = 1.0;
  int at = int(u_first);
  for (int i = 0; i < int(u_masks); i++) {
    vec4 mask = fit(at);
    float soft = max(mask.y, 1.0 / u_size.y);
    float off = distance_to(at + 1, int(mask.x), place * vec2(wide, 1.0), wide);
    float covered = clamp(0.5 - off / soft, 0.0, 1.0);
    covered = covered * covered * (3.0 - 2.0 * covered);
    if (mask.z > 0.5) kept = max(kept, covered);
    else left *= 1.0 - covered;
    at += 1 + int(mask.x);
  }
  return left * (kept < 0.0 ? 1.0 : kept);
}

// The share of light of a place in the zone where two outputs overlap; with the other's it adds up to 1.
float blend(float x, float width, float power) {
  if (width <= 0.0 || x >= width) return 1.0;
  float t = max(x / width, 0.0), rise = 0.5 * pow(2.0 * min(t, 1.0 - t), power);
  return t < 0.5 ? rise : 1.0 - rise;
}

void main() {
  vec2 place = vec2(v_uv.x, 1.0 - v_uv.y);
  vec4 standing = fit(0), look = fit(1), cut = fit(2);
  vec2 seen = cut.xy + place * cut.zw;
  vec4 c = u_walls > 0.5 || u_whole > 0.5 ? here(u_source) : texture(u_source, vec2(seen.x, 1.0 - seen.y));
  c = clamp(c, 0.0, 1.0) * standing.w;
  if (u_masks > 0.5) c *= passed(place);
  // Light that glows without covering covers as much as it shines.
  float alpha = u_clear_ground > 0.5 ? max(c.a, max(c.r, max(c.g, c.b))) : 1.0;
  vec3 shown = encoded(c.rgb / max(alpha, 1e-4) * look.x);
  if (look.y != 1.0) shown = pow(shown, vec3(1.0 / look.y));
  if (u_blends > 0.5) {
    vec4 widths = fit(3), how = fit(4);
    float share = blend(place.x, widths.x, how.x) * blend(1.0 - place.x, widths.y, how.x) *
        blend(place.y, widths.z, how.x) * blend(1.0 - place.y, widths.w, how.x);
    shown *= pow(share, 1.0 / how.y);
  }
  float grain = fract(52.9829189 * fract(dot(gl_FragCoord.xy, vec2(0.06711056, 0.00583715)))) - 0.5;
  shown = clamp(shown + grain / 255.0 * step(0.001, shown), 0.0, 1.0);
  o_colour = vec4(shown * alpha, alpha);
}
