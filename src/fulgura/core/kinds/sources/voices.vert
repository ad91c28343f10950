#include "vertex.glsl"
#include "ramp.glsl"
uniform float u_strength, u_radius, u_end_radius, u_growth, u_width, u_end_width, u_rotation, u_end_rotation,
    u_fades, u_x, u_y, u_scatter, u_level, u_coloured_by;
uniform vec3 u_tint, u_end_tint;
uniform sampler2D u_own, u_palette;
out vec2 v_corner;
flat out vec4 v_form;        // radius, width of the line, 1 / pixels of a length, light
flat out vec3 v_light;

float own_number(float a) { return fract(sin(a * 91.7) * 4375.85); }

void main() {
  vec4 voice = texelFetch(u_own, ivec2(gl_InstanceID, 0), 0);
  float share = voice.x;
  if (share < 0.0) { gl_Position = NOWHERE; return; }
  float size = mix(1.0, voice.y, u_strength);
  float radius = size * mix(u_radius, u_end_radius, pow(share, u_growth)), width = mix(u_width, u_end_width, share);
  float light = u_fades > 0.0 ? pow(1.0 - share, u_fades) : 1.0;
  // A line that is thinner than a pixel is drawn as one, and so much darker.
  float pixel = 2.0 / u_size.y;
  light *= min(1.0, width / pixel);
  width = max(width, pixel);
  float own = fract(voice.w);
  vec4 ramped = u_coloured_by > 0.5 ? texelFetch(u_palette, ivec2(int(voice.w), 0), 0) : u_ramped > 0.5 ? of_ramp(share) : vec4(mix(u_tint, u_end_tint, share), 1.0);
  v_light = ramped.rgb * light * u_level;
  v_form = vec4(radius, width, pixel, light * ramped.a);
  float way = own * 6.28318530718, far = u_scatter * sqrt(own_number(own + 0.5));
  vec2 middle = vec2(u_x, u_y) + far * vec2(cos(way), sin(way));
  vec2 corner = CORNERS[gl_VertexID] * (radius + width + 2.0 * pixel);
  v_corner = corner;
  gl_Position = at_place(middle + turned(corner, -(u_rotation + u_end_rotation * share)));
}
