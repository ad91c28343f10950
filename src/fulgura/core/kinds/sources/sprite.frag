uniform float u_sprite;
in vec2 v_corner;
in vec3 v_light;

void main() {
  float r = length(v_corner), light;
  if (u_sprite < 0.5) light = 1.0 - smoothstep(0.55, 1.0, r);
  else if (u_sprite < 1.5) light = max(0.0, 1.0 - r) * (exp(-18.0 * abs(v_corner.x)) + exp(-18.0 *
      abs(v_corner.y)) + exp(-9.0 * r * r));
  else if (u_sprite < 2.5) light = 1.0;
  else if (u_sprite < 3.5) light = 1.0 - smoothstep(0.08, 0.22, abs(r - 0.76));
  else light = max(0.0, 1.0 - abs(v_corner.x)) * max(0.0, 1.0 - v_corner.y * v_corner.y);
  o_colour = vec4(v_light * light, clamp(light * max(v_light.r, max(v_light.g, v_light.b)), 0.0, 1.0));
}
