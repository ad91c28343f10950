uniform sampler2D u_share;

// The greatest share of a cell and its neighbours: between cells no pixel keeps less than its own cell needs.
void main() {
  ivec2 last = textureSize(u_share, 0) - 1, at = ivec2(gl_FragCoord.xy);
  float share = 0.0;
  for (int y = -1; y <= 1; y++)
    for (int x = -1; x <= 1; x++)
      share = max(share, texelFetch(u_share, clamp(at + ivec2(x, y), ivec2(0), last), 0).r);
  o_colour = vec4(share, 0.0, 0.0, 1.0);
}
