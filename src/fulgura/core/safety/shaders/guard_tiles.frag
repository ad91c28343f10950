uniform sampler2D u_share;

// The greatest share of the cells of a tile.
void main() {
  ivec2 each = textureSize(u_share, 0) / ivec2(u_size), corner = ivec2(gl_FragCoord.xy) * each;
  float share = 0.0;
  for (int y = 0; y < each.y; y++)
    for (int x = 0; x < each.x; x++) share = max(share, texelFetch(u_share, corner + ivec2(x, y), 0).r);
  o_colour = vec4(share, 0.0, 0.0, 1.0);
}
