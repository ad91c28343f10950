uniform sampler2D u_source;
uniform float u_light; // of the whole picture: 0 in a blackout

void main() {
  vec4 c = here(u_source);
  vec3 light = clamp(c.rgb, 0.0, 1.0) * u_light;
  // A little fixed grain hides the steps of eight bits.
  float grain = fract(52.9829189 * fract(dot(gl_FragCoord.xy, vec2(0.06711056, 0.00583715)))) - 0.5;
  o_colour = vec4(encoded(light) + grain / 255.0 * step(0.001, light), 1.0);
}
