uniform sampler2D u_source;

const int TAPS = 40;
const float WIDEST = 0.05;   // of the picture's height

// Each place takes in what lies around it and is soft enough to reach it; alpha above 1 says how soft that
// is.
void main() {
  vec4 middle = here(u_source);
  float own = middle.a > 0.5 ? middle.a - 1.0 : -1.0;
  vec3 light = middle.rgb;
  float covered = step(0.5, middle.a), all = 1.0;
  for (int i = 1; i < TAPS; i++) {
    // Evenly over a disc, by the golden angle (H. Vogel, 1979).
    float r = sqrt(float(i) / float(TAPS)), a = 2.39996323 * float(i);
    vec4 c = texture(u_source, v_uv + r * WIDEST * vec2(cos(a) * u_size.y / u_size.x, sin(a)));
    float there = step(0.5, c.a), reach = there > 0.5 ? c.a - 1.0 : own < 0.0 ? 1.0 : own;
    float weight = smoothstep(r - 0.2, r, reach);
    light += c.rgb * there * weight;
    covered += there * weight;
    all += weight;
  }
  o_colour = vec4(light, covered) / all;
}
