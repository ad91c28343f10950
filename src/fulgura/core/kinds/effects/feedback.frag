uniform sampler2D u_source, u_previous;
uniform float u_scale, u_rotation, u_x, u_y, u_fade, u_hue, u_soften, u_how, u_wrap, u_clear, u_floor, u_see_through;

// An executor that skipped frames makes up for them, so that the tunnel is as deep at any display rate.
once mat2 back = on_picture(turn(-u_rotation * u_steps)) / pow(u_scale, u_steps);
once vec2 from = 0.5 - back * (0.5 + step_on_picture(vec2(u_x, u_y) * 0.02 * u_steps));
once mat3 turned = hue_turn(u_hue * u_steps);
once float kept = pow(u_fade, u_steps) * (1.0 - u_clear);

void main() {
  vec2 at = back * v_uv + from;
  if (u_wrap > 0.5) at = 1.0 - abs(1.0 - mod(at, 2.0));
  vec4 last = texture(u_previous, at);
  if (u_soften > 0.0) {
    vec2 by = 2.0 / u_size;
    vec4 around = texture(u_previous, at + vec2(by.x, by.y)) + texture(u_previous, at + vec2(-by.x,
        by.y)) + texture(u_previous, at + vec2(by.x, -by.y)) + texture(u_previous, at - by);
    last = mix(last, 0.2 * (last + around), u_soften);
  }
  last *= kept;
  if (u_wrap < 0.5) {
    // Outside the last picture there is nothing; a hard edge would leave a frame around the tunnel.
    vec2 edge = clamp(100.0 * min(at, 1.0 - at), 0.0, 1.0);
    last *= edge.x * edge.y;
  }
  if (u_floor > 0.0) last *= smoothstep(u_floor * 0.5, u_floor, max(last.r, max(last.g, last.b)));
  if (u_hue != 0.0) last.rgb = max(turned * last.rgb, 0.0);
  vec4 now = here(u_source);
  if (u_see_through > 0.0) now *= smoothstep(u_see_through * 0.5, u_see_through, max(now.r, max(now.g, now.b)));
  if (u_how < 0.5) o_colour = vec4(now.rgb + last.rgb, now.a + last.a * (1.0 - now.a));
  else if (u_how < 1.5) o_colour = max(now, last);
  else if (u_how < 2.5) o_colour = now + last * (1.0 - now.a);
  else o_colour = last + now * (1.0 - min(last.a, 1.0));
  o_colour = min(o_colour, vec4(16.0, 16.0, 16.0, 1.0));
}
