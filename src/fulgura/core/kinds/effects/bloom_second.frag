#include "spread.glsl"
uniform sampler2D u_source;
uniform float u_radius;

void main() { o_colour = spread(u_source, vec2(0.0, u_radius * 0.5)); }
