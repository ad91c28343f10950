uniform float u_style, u_form, u_height, u_width, u_radius, u_turn, u_glow, u_level;
uniform vec3 u_tint;
uniform sampler2D u_waveform;

void main() {
  vec2 p = place();
  float a = radians(-u_turn);
  p = mat2(cos(a), sin(a), -sin(a), cos(a)) * p;
  float along, off;
  if (u_form > 0.5) {
    // Round and back again, so that both its ends meet.
    along = abs(fract(atan(p.y, p.x) / 6.28318530718 + 0.25) * 2.0 - 1.0);
    off = length(p) - u_radius;
  } else {
    along = p.x / (u_size.x / u_size.y) * 0.5 + 0.5;
    off = p.y;
  }
  float wave = texture(u_waveform, vec2(along, 0.5)).r * u_height;
  // A steep wave is far from a pixel above it and near to one beside it: the slope brings it back.
  float before = texture(u_waveform, vec2(along - 2.0 / 512.0, 0.5)).r, after = texture(u_waveform, vec2(along + 2.0 / 512.0, 0.5)).r;
  float slope = clamp((after - before) * u_height * 64.0 * u_size.y / u_size.x, -3.0, 3.0);
  float light;
  if (u_style < 0.5) light = line_light(abs(off - wave) / sqrt(1.0 + slope * slope), u_width, 0.5, u_glow);
  else if (u_style < 1.5) light = step(min(0.0, wave), off) * step(off, max(0.0, wave));
  else if (u_style < 2.5) light = step(abs(off), abs(wave) + 0.5 * u_width);
  else light = line_light(length(vec2(fract(along * 96.0) - 0.5, 0.0)) * 0.02 + abs(off - texture(u_waveform, vec2((floor(along * 96.0) + 0.5) / 96.0, 0.5)).r * u_height), u_width * 1.6, 0.5, u_glow);
  light *= u_level * step(0.0, along) * step(along, 1.0);
  o_colour = vec4(u_tint * light, clamp(light, 0.0, 1.0));
}
