uniform sampler2D u_source;
uniform float u_threshold, u_softness, u_keeps, u_two_tones;

void main() {
  vec4 c = here(u_source);
  float grey = dot(encoded(c.rgb), vec3(0.2126, 0.7152, 0.0722));
  float passes = smoothstep(u_threshold - 0.5 * u_softness - 1e-4, u_threshold + 0.5 * u_softness + 1e-4,
      grey);
  passes = u_keeps > 0.5 ? 1.0 - passes : passes;
  o_colour = u_two_tones > 0.5 ? vec4(vec3(passes), passes) : c * passes;
}
