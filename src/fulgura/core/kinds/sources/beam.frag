uniform vec3 u_tint;
uniform float u_level, u_glow;
in float v_across, v_light;

void main() {
  float off = abs(v_across);
  float light = (1.0 - smoothstep(0.5, 1.0, off) + u_glow * 0.25 * exp(-off * off * 0.6)) * v_light * u_level
      * 0.5;
  o_colour = vec4(u_tint * light, clamp(light, 0.0, 1.0));
}
