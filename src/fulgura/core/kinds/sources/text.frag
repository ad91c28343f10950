uniform float u_weight, u_outline, u_glow, u_level;
uniform vec3 u_tint;
uniform sampler2D u_image;
in vec2 v_at;

void main() {
  // How far inside the outline: the sheet holds distances. An edge is as wide as a pixel, however large the
  // letter is.
  float inside = texture(u_image, v_at).r - 0.5 + 0.5 * u_weight;
  float pixel = max(fwidth(inside), 0.004);
  float filled = smoothstep(-pixel, pixel, inside);
  float line = 1.0 - smoothstep(0.06, 0.06 + pixel, abs(inside));
  float light = mix(filled, line, u_outline);
  light += u_glow * (1.0 - light) * smoothstep(-0.5, 0.0, inside) * 0.7;
  light *= u_level;
  o_colour = vec4(u_tint * light, clamp(light, 0.0, 1.0));
}
