uniform sampler2D u_source;
uniform float u_apart, u_rotation, u_outward;
once vec2 aside = step_on_picture((1.0 - u_outward) * u_apart * vec2(cos(radians(u_rotation)),
    sin(radians(u_rotation))));
once float outward = 0.5 * u_outward * u_apart;

void main() {
  vec2 off = aside + outward * (2.0 * v_uv - 1.0);
  vec4 left = texture(u_source, v_uv + off), middle = here(u_source), right = texture(u_source, v_uv - off);
  o_colour = vec4(left.r, middle.g, right.b, max(left.a, max(middle.a, right.a)));
}
