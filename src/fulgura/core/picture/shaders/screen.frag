uniform sampler2D u_source;

// Linear light to what a display expects: IEC 61966-2-1.
void main() {
  vec4 c = texture(u_source, v_uv);
  vec3 light = clamp(c.rgb, 0.0, 1.0);
  vec3 encoded = mix(light * 12.92, 1.055 * pow(light, vec3(1.0 / 2.4)) - 0.055, step(0.0031308, light));
  // A little fixed grain hides the steps of eight bits.
  float grain = fract(52.9829189 * fract(dot(gl_FragCoord.xy, vec2(0.06711056, 0.00583715)))) - 0.5;
  o_colour = vec4(encoded + grain / 255.0 * step(0.001, light), 1.0);
}
