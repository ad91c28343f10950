uniform sampler2D u_source, u_backdrop;
uniform float u_blend, u_opacity, u_x, u_y, u_scale, u_rotation, u_anchor_x, u_anchor_y, u_flip, u_wrap,
    u_left, u_right, u_top, u_bottom;
once mat2 back = on_picture(turn(-u_rotation)) / u_scale;
once vec2 anchor = 0.5 + step_on_picture(vec2(u_anchor_x, u_anchor_y));
once vec2 away = anchor + step_on_picture(vec2(u_x, u_y));

// Where a pixel of the picture lies in the layer's own; what lies outside is nothing, a tile, or a mirror
// image.
vec4 placed() {
  vec2 at = back * (v_uv - away) + anchor;
  if (u_flip == 1.0 || u_flip == 3.0) at.x = 1.0 - at.x;
  if (u_flip >= 2.0) at.y = 1.0 - at.y;
  if (u_wrap == 1.0) at = fract(at);
  else if (u_wrap == 2.0) at = 1.0 - abs(1.0 - mod(at, 2.0));
  vec2 low = vec2(u_left, u_bottom), high = 1.0 - vec2(u_right, u_top);
  vec2 seen = step(low, at) * step(at, high);
  return texture(u_source, at) * seen.x * seen.y;
}

// Separable blend modes of W3C Compositing and Blending Level 1, section 9.1. b: what is below, s: the layer,
// both as a
// display encodes them, for that is what the standard blends.
float hard(float b, float s) { return s <= 0.5 ? 2.0 * b * s : b + 2.0 * s - 1.0 - b * (2.0 * s - 1.0); }
float soft(float b, float s) {
  if (s <= 0.5) return b - (1.0 - 2.0 * s) * b * (1.0 - b);
  float d = b <= 0.25 ? ((16.0 * b - 12.0) * b + 4.0) * b : sqrt(b);
  return b + (2.0 * s - 1.0) * (d - b);
}
float mixed(float b, float s) {
  if (u_blend == 3.0) return b + s - b * s;
  if (u_blend == 4.0) return b * s;
  if (u_blend == 5.0) return hard(s, b);
  if (u_blend == 6.0) return soft(b, s);
  if (u_blend == 7.0) return hard(b, s);
  if (u_blend == 8.0) return max(b, s);
  if (u_blend == 9.0) return min(b, s);
  if (u_blend == 10.0) return abs(b - s);
  if (u_blend == 11.0) return b + s - 2.0 * b * s;
  if (u_blend == 12.0) return b <= 0.0 ? 0.0 : s >= 1.0 ? 1.0 : min(1.0, b / (1.0 - s));
  return b >= 1.0 ? 1.0 : s <= 0.0 ? 0.0 : 1.0 - min(1.0, (1.0 - b) / s);
}

void main() {
  bool still = u_x == 0.0 && u_y == 0.0 && u_scale == 1.0 && u_rotation == 0.0 && u_flip == 0.0 && u_left ==
      0.0 && u_right == 0.0 && u_top == 0.0 && u_bottom == 0.0;
  vec4 below = here(u_backdrop), layer = (still ? here(u_source) : placed()) * u_opacity;
  if (u_blend < 0.5) {
    o_colour = layer + below * (1.0 - layer.a);
  } else if (u_blend < 1.5) {
    o_colour = vec4(below.rgb + layer.rgb, max(below.a, layer.a));
  } else if (u_blend < 2.5) {
    // As screen, but of light: it never passes full, and dark stays dark.
    o_colour = vec4(below.rgb + layer.rgb * max(1.0 - below.rgb, 0.0), max(below.a, layer.a));
  } else {
    vec3 b = encoded(below.rgb / max(below.a, 1e-5)), s = encoded(layer.rgb / max(layer.a, 1e-5));
    vec3 m = vec3(mixed(b.r, s.r), mixed(b.g, s.g), mixed(b.b, s.b));
    // Compositing as in section 5, of encoded colours too.
    vec3 c = s * layer.a * (1.0 - below.a) + m * layer.a * below.a + b * below.a * (1.0 - layer.a);
    float a = layer.a + below.a * (1.0 - layer.a);
    o_colour = vec4(decoded(c / max(a, 1e-5)) * a, a);
  }
}
