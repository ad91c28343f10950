uniform float u_shows, u_sides, u_softness;
uniform sampler2D u_picture;
in vec2 v_corner;
flat in vec4 v_form;
flat in vec3 v_light;

void main() {
  float radius = v_form.x, width = v_form.y, pixel = v_form.z;
  if (u_shows > 1.5) {
    vec2 at = v_corner / max(radius, 1e-4) * 0.5 + 0.5;
    vec4 seen = texture(u_picture, at) * step(abs(at.x - 0.5), 0.5) * step(abs(at.y - 0.5), 0.5);
    o_colour = vec4(seen.rgb * v_light, seen.a * v_form.w);
    return;
  }
  float away = length(v_corner);
  if (u_sides < 11.5) {
    // To the middle of the side that lies this way; a corner points up.
    float wedge = 6.28318530718 / floor(u_sides + 0.5);
    float a = (fract(atan(v_corner.x, v_corner.y) / wedge) - 0.5) * wedge;
    away *= cos(a) / cos(0.5 * wedge);
  }
  float half_width = 0.5 * width, soft = max(pixel, half_width * u_softness);
  float off = u_shows > 0.5 ? away - radius : abs(away - radius) - half_width;
  float line = 1.0 - smoothstep(-0.5 * soft, 0.5 * soft, off + 0.5 * (u_shows > 0.5 ? 0.0 : soft - pixel));
  o_colour = vec4(v_light * line, clamp(v_form.w * line, 0.0, 1.0));
}
