uniform float u_style, u_form, u_height, u_width, u_radius, u_rotation, u_glow, u_level;
uniform vec3 u_tint;
uniform sampler2D u_own;
once mat2 back = turn(-u_rotation);
once vec4 line_ = line_of(u_style > 2.5 ? 1.6 * u_width : u_width, 0.5, u_glow);
once float steep = u_height * 64.0 * u_size.y / u_size.x;

void main() {
  vec2 p = back * place();
  float along, off;
  if (u_form > 0.5) {
    // Round and back again, so that both its ends meet.
    along = abs(fract(atan(p.y, p.x) / 6.28318530718 + 0.25) * 2.0 - 1.0);
    off = length(p) - u_radius;
  } else {
    along = p.x / (u_size.x / u_size.y) * 0.5 + 0.5;
    off = p.y;
  }
  float wave = texture(u_own, vec2(along, 0.5)).r * u_height;
  float light;
  if (u_style < 0.5) {
    // A steep wave is far from a pixel above it and near to one beside it: the slope brings it back.
    float before = texture(u_own, vec2(along - 2.0 / 512.0, 0.5)).r, after = texture(u_own,
        vec2(along + 2.0 / 512.0, 0.5)).r;
    float slope = clamp((after - before) * steep, -3.0, 3.0);
    light = line_light(abs(off - wave) * inversesqrt(1.0 + slope * slope), line_);
  }
  else if (u_style < 1.5) light = step(min(0.0, wave), off) * step(off, max(0.0, wave));
  else if (u_style < 2.5) light = step(abs(off), abs(wave) + 0.5 * u_width);
  else light = line_light(abs(fract(along * 96.0) - 0.5) * 0.02 + abs(off - texture(u_own,
      vec2((floor(along * 96.0) + 0.5) / 96.0, 0.5)).r * u_height), line_);
  light *= u_level * step(0.0, along) * step(along, 1.0);
  o_colour = vec4(u_tint * light, clamp(light, 0.0, 1.0));
}
