uniform sampler2D u_source, u_by;
uniform float u_form, u_amount, u_turn;

// As bright as it looks: the square root is near enough to how a display encodes light.
float bright(vec2 at) { return sqrt(dot(texture(u_by, at).rgb, vec3(0.2126, 0.7152, 0.0722))); }

void main() {
  vec2 off;
  if (u_form < 0.5) {
    float a = radians(u_turn);
    off = vec2(cos(a), sin(a)) * (bright(v_uv) - 0.5) * step(0.0001, here(u_by).a);
  } else if (u_form < 1.5) {
    vec2 step_ = vec2(u_size.y / u_size.x, 1.0) * 0.012;
    off = -2.0 * vec2(bright(v_uv + vec2(step_.x, 0.0)) - bright(v_uv - vec2(step_.x, 0.0)), bright(v_uv + vec2(0.0, step_.y)) - bright(v_uv - vec2(0.0, step_.y)));
  } else off = (sqrt(here(u_by).rg) - 0.5) * step(0.0001, here(u_by).a);
  // What is pushed over the edge comes back as in a mirror.
  vec2 at = place_to_uv(place() - off * u_amount);
  o_colour = texture(u_source, 1.0 - abs(1.0 - mod(at, 2.0)));
}
