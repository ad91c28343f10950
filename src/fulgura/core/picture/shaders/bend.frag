uniform sampler2D u_source;
uniform float u_form, u_amount, u_radius, u_across, u_up;

void main() {
  vec2 middle = vec2(u_across, u_up), p = place() - middle;
  float near = 1.0 - smoothstep(0.0, max(u_radius, 1e-3), length(p));
  if (u_form < 0.5) {
    // A lens: what lies in the middle is drawn nearer or pushed away.
    p *= 1.0 - u_amount * near;
  } else {
    float a = u_amount * 3.14159265359 * near;
    p = mat2(cos(a), sin(a), -sin(a), cos(a)) * p;
  }
  vec2 at = place_to_uv(p + middle);
  vec2 seen = step(0.0, at) * step(at, vec2(1.0));
  o_colour = texture(u_source, at) * seen.x * seen.y;
}
