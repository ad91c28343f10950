uniform sampler2D u_source;
uniform float u_lines, u_depth, u_roll, u_grain, u_corners;
once float anew = fract(u_time * 7.13) * 641.0;

void main() {
  vec4 c = here(u_source);
  // Up and down once a line, as smoothly as a cosine.
  float up = abs(2.0 * fract(v_uv.y * u_lines + u_roll * u_time) - 1.0);
  c.rgb *= 1.0 - u_depth * up * up * (3.0 - 2.0 * up);
  // Grain of light, anew at each frame: stronger in the middle tones, none in the dark.
  float n = hash(gl_FragCoord.xy + anew) - 0.5;
  float grey = dot(c.rgb, vec3(0.2126, 0.7152, 0.0722));
  c.rgb = max(c.rgb * (1.0 + u_grain * n * 2.0 / (1.0 + grey)), 0.0);
  c.rgb *= 1.0 - u_corners * smoothstep(0.1, 1.0, dot(v_uv - 0.5, v_uv - 0.5) * 2.0);
  o_colour = c;
}
