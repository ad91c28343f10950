uniform sampler2D u_source;
uniform float u_lines, u_depth, u_roll, u_grain, u_corners;

void main() {
  vec4 c = here(u_source);
  float row = 0.5 + 0.5 * cos(6.28318530718 * (v_uv.y * u_lines + u_roll * u_time));
  c.rgb *= 1.0 - u_depth * row;
  // Grain of light, anew at each frame: stronger in the middle tones, none in the dark.
  float n = hash(gl_FragCoord.xy + fract(u_time * 7.13) * 641.0) - 0.5;
  float grey = dot(c.rgb, vec3(0.2126, 0.7152, 0.0722));
  c.rgb = max(c.rgb * (1.0 + u_grain * n * 2.0 / (1.0 + grey)), 0.0);
  c.rgb *= 1.0 - u_corners * smoothstep(0.1, 1.0, dot(v_uv - 0.5, v_uv - 0.5) * 2.0);
  o_colour = c;
}
