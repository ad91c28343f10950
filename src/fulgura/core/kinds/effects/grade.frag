uniform sampler2D u_source;
uniform float u_exposure, u_gamma, u_contrast, u_saturation, u_hue, u_vignette;
uniform vec3 u_tint;
once vec3 lit = exp2(u_exposure) * u_tint;
once mat3 turned = hue_turn(u_hue);

void main() {
  vec4 c = here(u_source);
  // Light has no sign; what rounding left below nothing would be no number as soon as it is bent.
  vec3 light = max(c.rgb, 0.0) * lit;
  float grey = dot(light, vec3(0.2126, 0.7152, 0.0722));
  if (u_saturation != 1.0) light = max(mix(vec3(grey), light, u_saturation), 0.0);
  if (u_hue != 0.0) light = max(turned * light, 0.0);
  if (u_contrast != 1.0) light = 0.18 * pow(light / 0.18, vec3(u_contrast));
  if (u_gamma != 1.0) light = pow(light, vec3(u_gamma));
  float corner = dot(v_uv - 0.5, v_uv - 0.5) * 2.0;
  light *= 1.0 - u_vignette * smoothstep(0.1, 1.0, corner);
  // Strong light leans toward white instead of clipping each channel by itself (Reinhard's curve above the
  // knee).
  float top = max(max(light.r, light.g), max(light.b, 1e-6));
  float squeezed = top <= 0.7 ? top : 0.7 + 0.3 * (top - 0.7) / (top - 0.4);
  light = mix(light * (squeezed / top), vec3(squeezed), 0.5 * smoothstep(1.0, 6.0, top));
  o_colour = vec4(light, c.a);
}
