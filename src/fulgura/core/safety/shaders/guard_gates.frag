#include "guard.glsl"
uniform sampler2D u_fields, u_tally;
uniform float u_across, u_down;

// How strict each place has to be: as strict as any field that it lies in. For those who watch the guard: how many
// changes of its own field are remembered, and which share of its cells is held.
void main() {
  ivec2 size = textureSize(u_fields, 0), reach = ivec2(u_across, u_down) / 2 + 1, at = ivec2(gl_FragCoord.xy);
  float gate = 0.0;
  for (int y = -reach.y; y <= reach.y; y++)
    for (int x = -reach.x; x <= reach.x; x++)
      gate = max(gate, texelFetch(u_fields, clamp(at + ivec2(x, y), ivec2(0), size - 1), 0).b);
  vec4 own = texelFetch(u_fields, at, 0);
  float many = float(how_many(uint(own.x), 4u) + how_many(uint(own.y), 2u));
  o_colour = vec4(gate, many, texelFetch(u_tally, at, 0).a, 1.0);
}
