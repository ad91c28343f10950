uniform sampler2D u_source, u_into;
uniform float u_share, u_how;

// From one look to another. Light is mixed, so that a fade keeps what both looks have at its brightness.
void main() {
  vec4 from = here(u_source), to = here(u_into);
  float s = u_share;
  if (u_how < 0.5) o_colour = mix(from, to, s);
  else if (u_how < 1.5) o_colour = from * min(1.0, 2.0 - 2.0 * s) + to * min(1.0, 2.0 * s);
  else if (u_how < 2.5) o_colour = mix(from, to, smoothstep(0.0, 1.0, (s * 1.3 - v_uv.x) / 0.3));
  else {
    // What is bright in the old look goes last.
    float bright = dot(encoded(from.rgb), vec3(0.2126, 0.7152, 0.0722));
    o_colour = mix(from, to, clamp((s * 1.3 - bright) / 0.3, 0.0, 1.0));
  }
}
