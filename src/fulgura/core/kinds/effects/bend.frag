uniform sampler2D u_source;
uniform float u_form, u_amount, u_radius, u_x, u_y;
once vec2 wide = vec2(u_size.x / u_size.y, 1.0);
once float reach = 1.0 / max(u_radius, 1e-3);

void main() {
  vec2 middle = vec2(u_x, u_y), p = (v_uv * 2.0 - 1.0) * wide - middle;
  float near = 1.0 - smoothstep(0.0, 1.0, length(p) * reach);
  if (u_form < 0.5) {
    // A lens: what lies in the middle is drawn nearer or pushed away.
    p *= 1.0 - u_amount * near;
  } else {
    float a = u_amount * 3.14159265359 * near;
    p = mat2(cos(a), sin(a), -sin(a), cos(a)) * p;
  }
  vec2 at = (p + middle) * (0.5 / wide) + 0.5;
  vec2 seen = step(0.0, at) * step(at, vec2(1.0));
  o_colour = texture(u_source, at) * seen.x * seen.y;
}
