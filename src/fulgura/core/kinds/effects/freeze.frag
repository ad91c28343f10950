uniform sampler2D u_source, u_previous;
uniform float u_hold;

void main() { o_colour = mix(here(u_source), here(u_previous), u_hold); }
