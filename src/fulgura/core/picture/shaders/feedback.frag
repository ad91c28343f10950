uniform sampler2D u_source, u_previous;
uniform float u_scale, u_turn, u_across, u_up, u_fade, u_hue;

void main() {
  // An executor that skipped frames makes up for them, so that the tunnel is as deep at any display rate.
  float n = u_steps;
  float a = radians(-u_turn * n);
  vec2 p = place() - vec2(u_across, u_up) * 0.02 * n;
  p = mat2(cos(a), sin(a), -sin(a), cos(a)) * p / pow(u_scale, n);
  vec2 at = place_to_uv(p);
  vec4 last = texture(u_previous, at) * pow(u_fade, n);
  // Outside the last picture there is nothing; a hard edge would leave a frame around the tunnel.
  vec2 edge = smoothstep(vec2(0.0), vec2(0.01), at) * smoothstep(vec2(0.0), vec2(0.01), 1.0 - at);
  last *= edge.x * edge.y;
  last.rgb = max(turn_hue(last.rgb, u_hue * n), 0.0);
  vec4 now = texture(u_source, v_uv);
  o_colour = min(vec4(now.rgb + last.rgb, now.a + last.a * (1.0 - now.a)), vec4(16.0, 16.0, 16.0, 1.0));
}
