#include "guard.glsl"
uniform sampler2D u_past, u_share;

// Of the cells of an eighth: how many want a change now, have made as many as they may, just made one, are held.
void main() {
  ivec2 each = textureSize(u_past, 0) / ivec2(u_size), corner = ivec2(gl_FragCoord.xy) * each;
  vec4 sum = vec4(0.0);
  for (int y = 0; y < each.y; y++)
    for (int x = 0; x < each.x; x++) {
      ivec2 at = corner + ivec2(x, y);
      Past past = past_of(texelFetch(u_past, at, 0));
      float many = float(how_many(past.first, 4u) + how_many(past.second, 2u));
      sum += vec4(past.waits > 0.0, many >= u_most_changes || past.calm > 0.0,
          (past.first & 63u) == uint(u_second - u_steps), texelFetch(u_share, at, 0).r > 0.0);
    }
  o_colour = sum / float(each.x * each.y);
}
