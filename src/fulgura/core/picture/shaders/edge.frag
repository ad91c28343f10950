uniform sampler2D u_source;
uniform float u_width, u_strength, u_keep;
uniform vec3 u_tint;

float grey(vec2 off) { return dot(texture(u_source, v_uv + off).rgb, vec3(0.2126, 0.7152, 0.0722)); }

void main() {
  // The operator of I. Sobel and G. Feldman (1968, from memory): slopes across and up.
  vec2 d = u_width * vec2(u_size.y / u_size.x, 1.0) * 0.5;
  float a = grey(vec2(-d.x, d.y)), b = grey(vec2(0, d.y)), c = grey(d), e = grey(vec2(-d.x, 0)), f = grey(vec2(d.x, 0)), g = grey(-d), h = grey(vec2(0, -d.y)), i = grey(vec2(d.x, -d.y));
  float x = c + 2.0 * f + i - a - 2.0 * e - g, y = a + 2.0 * b + c - g - 2.0 * h - i;
  float line = clamp(length(vec2(x, y)) * u_strength, 0.0, 1.0);
  vec4 kept = here(u_source) * u_keep;
  o_colour = vec4(kept.rgb + u_tint * line, max(kept.a, line));
}
