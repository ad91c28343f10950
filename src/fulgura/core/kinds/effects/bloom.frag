uniform sampler2D u_source, u_stage;
uniform float u_amount;

void main() {
  vec4 c = here(u_source);
  vec3 spill = texture(u_stage, v_uv).rgb * u_amount;
  o_colour = vec4(c.rgb + spill, min(1.0, c.a + max(spill.r, max(spill.g, spill.b))));
}
