#version 300 es
precision highp float;
precision highp int;
precision highp sampler2D;
uniform sampler2D u_tiles;
out vec2 v_uv;
out float v_share;

// The share at a corner of tiles: the greatest of those that meet there, so that no place of a tile keeps less than
// the tile needs, and there is no edge between tiles.
float share_at(ivec2 corner) {
  ivec2 last = textureSize(u_tiles, 0) - 1;
  float share = 0.0;
  for (int i = 0; i < 4; i++)
    share = max(share, texelFetch(u_tiles, clamp(corner - ivec2(i & 1, i >> 1), ivec2(0), last), 0).r);
  return share;
}

void main() {
  ivec2 tiles = textureSize(u_tiles, 0);
  ivec2 tile = ivec2(gl_InstanceID % tiles.x, gl_InstanceID / tiles.x);
  float most = 0.0;
  for (int i = 0; i < 4; i++) most = max(most, share_at(tile + ivec2(i & 1, i >> 1)));
  int at = gl_VertexID;
  ivec2 corner = tile + ivec2(at == 1 || at == 2 || at == 4 ? 1 : 0, at == 2 || at == 4 || at == 5 ? 1 : 0);
  v_uv = vec2(corner) / vec2(tiles);
  v_share = share_at(corner);
  gl_Position = most > 0.0 ? vec4(v_uv * 2.0 - 1.0, 0.0, 1.0) : vec4(2.0, 2.0, 0.0, 1.0);
}
