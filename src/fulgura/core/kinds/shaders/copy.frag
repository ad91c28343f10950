uniform sampler2D u_source;

// The cheapest pass that reads one target and writes another: what the bench compares others with.
void main() { o_colour = here(u_source); }
