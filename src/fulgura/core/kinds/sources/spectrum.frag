uniform float u_style, u_form, u_mirrored, u_rounded, u_count, u_gap, u_height, u_radius, u_rotation,
    u_grows, u_level;
#include "ramp.glsl"
uniform vec3 u_low_colour, u_high_colour;
uniform sampler2D u_own;
once mat2 back = turn(-u_rotation);

float heard(float at) {
  return texelFetch(u_own, ivec2(at, 0), 0).r;
}

void main() {
  vec2 p = place();
  float along, up;
  if (u_form > 0.5) {
    float a = fract((atan(p.x, p.y) - radians(u_rotation)) / 6.28318530718);
    along = u_mirrored > 0.5 ? abs(a * 2.0 - 1.0) : a;
    up = (length(p) - u_radius) / max(u_height, 1e-3);
  } else {
    float wide = u_size.x / u_size.y;
    p = back * p;
    along = u_mirrored > 0.5 ? abs(p.x / wide) : p.x / wide * 0.5 + 0.5;
    up = (u_grows < 0.5 ? abs(p.y) : 0.5 * u_height + (u_grows < 1.5 ? p.y : -p.y)) / max(u_height, 1e-3);
  }
  float bar = along * u_count, at = floor(bar);
  float inside = step(0.0, along) * step(at, u_count - 0.5);
  float tall = heard(at);
  float soft = 2.0 / u_size.y / max(u_height, 1e-3);
  float light;
  if (u_style < 0.5) {
    float side = abs(fract(bar) - 0.5) * 2.0;
    float half_width = 1.0 - u_gap;
    if (u_rounded > 0.5) {
      // Half as wide as it is, in units of the tallest bar.
      float r = half_width * (u_form > 0.5 ? 3.14159265359 * u_radius : u_size.x / u_size.y) / (u_count *
          (u_mirrored > 0.5 && u_form < 0.5 ? 2.0 : 1.0) * max(u_height, 1e-3));
      float off = clamp((up - tall + min(r, tall)) / max(min(r, tall), 1e-4), 0.0, 1.0);
      half_width *= sqrt(1.0 - off * off);
    }
    light = smoothstep(tall + soft, tall - soft, up) * step(-soft, up) * smoothstep(half_width + 0.08,
        half_width - 0.02, side);
  } else if (u_style < 1.5) {
    vec2 d = vec2((fract(bar) - 0.5) * 2.0, (up - tall) * u_count * 0.5);
    light = smoothstep(1.0 - u_gap, 0.7 * (1.0 - u_gap), length(d));
  } else {
    float other = heard(min(at + 1.0, u_count - 1.0));
    float line = mix(tall, other, fract(bar));
    light = exp(-pow((up - line) / 0.03, 2.0));
  }
  float share = (at + 0.5) / u_count;
  vec4 tint = u_ramped > 0.5 ? of_ramp(share) : vec4(mix(u_low_colour, u_high_colour, share), 1.0);
  light *= inside * u_level;
  o_colour = vec4(tint.rgb * light, clamp(light * tint.a, 0.0, 1.0));
}
