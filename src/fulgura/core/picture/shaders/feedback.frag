uniform sampler2D u_source, u_previous;
uniform float u_scale, u_turn, u_across, u_up, u_fade, u_hue, u_soften, u_how, u_beyond, u_clear, u_floor;

void main() {
  // An executor that skipped frames makes up for them, so that the tunnel is as deep at any display rate.
  float n = u_steps;
  float a = radians(-u_turn * n);
  vec2 p = place() - vec2(u_across, u_up) * 0.02 * n;
  p = mat2(cos(a), sin(a), -sin(a), cos(a)) * p / pow(u_scale, n);
  vec2 at = place_to_uv(p);
  if (u_beyond > 0.5) at = 1.0 - abs(1.0 - mod(at, 2.0));
  vec4 last = texture(u_previous, at);
  if (u_soften > 0.0) {
    vec2 by = 2.0 / u_size;
    vec4 around = texture(u_previous, at + vec2(by.x, by.y)) + texture(u_previous, at + vec2(-by.x, by.y)) + texture(u_previous, at + vec2(by.x, -by.y)) + texture(u_previous, at - by);
    last = mix(last, 0.2 * (last + around), u_soften);
  }
  last *= pow(u_fade, n) * (1.0 - u_clear);
  if (u_beyond < 0.5) {
    // Outside the last picture there is nothing; a hard edge would leave a frame around the tunnel.
    vec2 edge = smoothstep(vec2(0.0), vec2(0.01), at) * smoothstep(vec2(0.0), vec2(0.01), 1.0 - at);
    last *= edge.x * edge.y;
  }
  if (u_floor > 0.0) last *= smoothstep(u_floor * 0.5, u_floor, max(last.r, max(last.g, last.b)));
  if (u_hue != 0.0) last.rgb = max(turn_hue(last.rgb, u_hue * n), 0.0);
  vec4 now = here(u_source);
  if (u_how < 0.5) o_colour = vec4(now.rgb + last.rgb, now.a + last.a * (1.0 - now.a));
  else if (u_how < 1.5) o_colour = max(now, last);
  else if (u_how < 2.5) o_colour = now + last * (1.0 - now.a);
  else o_colour = last + now * (1.0 - min(last.a, 1.0));
  o_colour = min(o_colour, vec4(16.0, 16.0, 16.0, 1.0));
}
