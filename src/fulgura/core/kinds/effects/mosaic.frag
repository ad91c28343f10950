uniform sampler2D u_source;
uniform float u_cells, u_tones;
once vec2 grid = vec2(floor(u_cells * u_size.x / u_size.y), floor(u_cells));
once vec2 cell = u_size / grid;

void main() {
  vec4 c;
  if (u_cells < 255.5) {
    c = texelFetch(u_source, ivec2((floor(v_uv * grid) + 0.5) * cell), 0);
  } else c = here(u_source);
  if (u_tones < 31.5) {
    float most = floor(u_tones + 0.5) - 1.0;
    // In steps that look alike: the square root is near enough to how a display encodes light.
    vec3 step_ = floor(sqrt(clamp(c.rgb, 0.0, 1.0)) * most + 0.5) / most;
    c.rgb = step_ * step_;
  }
  o_colour = c;
}
