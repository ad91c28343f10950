uniform sampler2D u_source;
uniform float u_width, u_strength, u_keep;
uniform vec3 u_tint;

float grey(ivec2 at) { return dot(texelFetch(u_source, clamp(at, ivec2(0), ivec2(u_size) - 1), 0).rgb,
    vec3(0.2126, 0.7152, 0.0722)); }

void main() {
  // The cross of L. Roberts ("Machine perception of three-dimensional solids", 1963, from memory): slopes
  // along both
  // diagonals, over as many pixels as the line is to be wide.
  ivec2 at = ivec2(gl_FragCoord.xy), d = ivec2(max(1.0, floor(0.5 * u_width * u_size.y + 0.5)));
  vec2 slope = vec2(grey(at + d) - grey(at - d), grey(at + ivec2(d.x, -d.y)) - grey(at + ivec2(-d.x, d.y)));
  float line = clamp(2.8284 * length(slope) * u_strength, 0.0, 1.0);
  vec4 kept = here(u_source) * u_keep;
  o_colour = vec4(kept.rgb + u_tint * line, max(kept.a, line));
}
