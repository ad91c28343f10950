#include "lit.glsl"

void main() { o_colour = vec4(lit(), how_sharp()); }
