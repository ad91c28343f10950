uniform sampler2D u_source;
uniform float u_apart, u_turn, u_outward;

void main() {
  float a = radians(u_turn);
  vec2 off = mix(vec2(cos(a), sin(a)), place(), u_outward) * u_apart * vec2(u_size.y / u_size.x, 1.0) * 0.5;
  vec4 left = texture(u_source, v_uv + off), middle = here(u_source), right = texture(u_source, v_uv - off);
  o_colour = vec4(left.r, middle.g, right.b, max(left.a, max(middle.a, right.a)));
}
