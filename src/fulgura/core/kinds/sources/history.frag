uniform float u_goes, u_span, u_curve, u_half, u_fades, u_level;
#include "ramp.glsl"
uniform vec3 u_quiet, u_middle, u_loud;
uniform sampler2D u_own;
uniform float u_own_newest;   // the newest row of the ring

void main() {
  float pitch = v_uv.x, age = 1.0 - v_uv.y;
  if (u_goes > 3.5) {
    vec2 p = place();
    age = length(p);
    pitch = abs(atan(p.x, -p.y)) / 3.14159265359;
  } else if (u_goes > 2.5) { age = v_uv.x; pitch = v_uv.y; }
  else if (u_goes > 1.5) { age = 1.0 - v_uv.x; pitch = v_uv.y; }
  else if (u_goes > 0.5) age = v_uv.y;
  float inside = step(age, 1.0);
  float row = (u_own_newest + 0.5 - age * min(u_span - 1.0, 2046.0)) / 2048.0;
  float loud = texture(u_own, vec2(pitch, row)).r;
  float t = pow(loud, u_curve);
  vec4 ramped = u_ramped > 0.5 ? of_ramp(t) : vec4(1.0);
  vec3 colour = u_ramped > 0.5 ? ramped.rgb : t < u_half ? mix(u_quiet, u_middle, t / u_half) : mix(u_middle, u_loud,
      (t - u_half) / (1.0 - u_half));
  float light = smoothstep(0.0, 0.06, loud) * (1.0 - u_fades * age) * u_level * inside;
  o_colour = vec4(colour * light, clamp(light * ramped.a, 0.0, 1.0));
}
