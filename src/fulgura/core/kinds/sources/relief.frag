#include "lit.glsl"
in float v_shade;

void main() { o_colour = vec4(lit() * v_shade, how_sharp()); }
