uniform float u_trail;
uniform sampler2D u_previous;

// What stays of the last picture: the same share each engine frame, however often this executor draws.
void main() { o_colour = here(u_previous) * (u_trail > 0.0 ? pow(u_trail, u_steps) : 0.0); }
