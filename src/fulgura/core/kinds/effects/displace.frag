uniform sampler2D u_source, u_by;
uniform float u_form, u_amount, u_rotation, u_centre, u_levels;

once vec2 along = step_on_picture(u_amount * vec2(cos(radians(u_rotation)), sin(radians(u_rotation))));
once vec2 aside = vec2(u_size.y / u_size.x, 1.0) * 0.012;
once vec2 far = step_on_picture(vec2(u_amount));

// Of so many values, evenly from dark to bright, the nearest.
float level(float bright) {
  float last = floor(u_levels + 0.5) - 1.0;
  return last < 1.0 ? bright : floor(clamp(bright, 0.0, 1.0) * last + 0.5) / last;
}

// As bright as it looks: the square root is near enough to how a display encodes light.
float bright(vec3 light) { return sqrt(dot(light, vec3(0.2126, 0.7152, 0.0722))); }
float bright(vec2 at) { return level(bright(texture(u_by, at).rgb)); }

void main() {
  vec2 off;
  if (u_form < 0.5) {
    vec4 by = here(u_by);
    off = along * (level(bright(by.rgb)) - u_centre) * step(0.0001, by.a);
  } else if (u_form < 1.5) {
    off = -2.0 * far * vec2(bright(v_uv + vec2(aside.x, 0.0)) - bright(v_uv - vec2(aside.x, 0.0)),
        bright(v_uv + vec2(0.0, aside.y)) - bright(v_uv - vec2(0.0, aside.y)));
  } else {
    vec4 by = here(u_by);
    off = far * (vec2(level(sqrt(by.r)), level(sqrt(by.g))) - u_centre) * step(0.0001, by.a);
  }
  // What is pushed over the edge comes back as in a mirror.
  vec2 at = v_uv - off;
  o_colour = texture(u_source, 1.0 - abs(1.0 - mod(at, 2.0)));
}
