uniform sampler2D u_source;
uniform float u_count, u_x, u_y, u_scale, u_rotation, u_fade;
// From one copy to the next where it is looked up: turned, sized and moved about the picture's middle, in one
// step.
once mat2 next = on_picture(turn(-u_rotation)) / u_scale;
once vec2 by = 0.5 - next * (0.5 + step_on_picture(vec2(u_x, u_y)));

void main() {
  vec3 sum = vec3(0.0);
  float cover = 0.0, left = 1.0;
  vec2 at = v_uv;
  for (float k = 0.0; k < 12.0; k++) {
    if (k >= floor(u_count + 0.5)) break;
    vec2 seen = step(0.0, at) * step(at, vec2(1.0));
    vec4 c = texture(u_source, at) * seen.x * seen.y * left;
    sum += c.rgb * (1.0 - cover);
    cover += c.a * (1.0 - cover);
    at = next * at + by;
    left *= u_fade;
  }
  o_colour = vec4(sum, cover);
}
