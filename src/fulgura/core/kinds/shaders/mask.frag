uniform sampler2D u_source, u_mask;
uniform float u_masked_by, u_inverted;

void main() {
  vec4 mask = here(u_mask);
  float share = clamp(u_masked_by < 0.5 ? sqrt(dot(mask.rgb, vec3(0.2126, 0.7152, 0.0722))) : mask.a, 0.0,
      1.0);
  o_colour = here(u_source) * (u_inverted > 0.5 ? 1.0 - share : share);
}
