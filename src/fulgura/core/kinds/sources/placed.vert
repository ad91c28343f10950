#include "vertex.glsl"
#include "camera.glsl"
#include "ramp.glsl"
uniform float u_by, u_count, u_spread_x, u_spread_y, u_spread_z, u_echoes, u_solid, u_solid_size, u_twirl, u_opacity,
    u_sizes_given, u_turns_given, u_skins_given;
uniform vec3 u_tint;
uniform sampler2D u_places, u_places_2, u_places_4, u_places_6, u_places_8, u_sizes, u_turns, u_skins;
out vec3 v_normal, v_place, v_skin;
out float v_bright, v_light;
#include "solids.glsl"

vec4 read(int echo, vec2 at) {
  return echo == 0 ? textureLod(u_places, at, 0.0) : echo == 1 ? textureLod(u_places_2, at, 0.0) :
      echo == 2 ? textureLod(u_places_4, at, 0.0) : echo == 3 ? textureLod(u_places_6, at, 0.0) :
      textureLod(u_places_8, at, 0.0);
}

void main() {
  int count = int(u_count + 0.5), echoes = int(u_echoes + 0.5) + 1;
  vec3 corner, normal;
  if (gl_InstanceID >= count || !corner_of(gl_VertexID, corner, normal)) { gl_Position = NOWHERE; return; }
  // Each has a pixel of its own, in rows that lie as the picture's do; echoes share them.
  int echo = gl_InstanceID % echoes, number = gl_InstanceID / echoes, each = (count + echoes - 1) / echoes;
  int columns = int(ceil(sqrt(float(each) * 16.0 / 9.0))), rows = (each + columns - 1) / columns;
  vec2 at = (vec2(float(number % columns), float(number / columns)) + 0.5) / vec2(float(columns), float(rows));
  vec4 c = read(echo, at);
  float bright = brightness(c.rgb);
  vec3 middle = u_by < 0.5 ? c.rgb * 2.0 - 1.0 : vec3(at * 2.0 - 1.0, bright * 2.0 - 1.0);
  middle *= vec3(u_spread_x, u_spread_y, u_spread_z);
  float size = u_solid_size * (u_sizes_given > 0.5 ? brightness(textureLod(u_sizes, at, 0.0).rgb) : 1.0);
  float a = radians(u_twirl) * (u_turns_given > 0.5 ? brightness(textureLod(u_turns, at, 0.0).rgb) : 1.0);
  mat3 spin = mat3(cos(a), 0.0, -sin(a), 0.0, 1.0, 0.0, sin(a), 0.0, cos(a)) * mat3(1.0, 0.0, 0.0, 0.0,
      cos(a), sin(a), 0.0, -sin(a), cos(a));
  v_light = u_opacity * (1.0 - 0.8 * float(echo) / float(echoes));
  v_normal = to_camera(spin * normal);
  v_place = to_camera(middle + spin * corner * size);
  v_bright = 1.0;
  v_skin = (u_skins_given > 0.5 ? textureLod(u_skins, at, 0.0).rgb : u_ramped > 0.5 ? of_ramp(bright).rgb :
      u_tint);
  // Nothing is drawn where the picture is clear.
  gl_Position = c.a <= 0.0 || size <= 0.0 ? NOWHERE : seen(v_place);
}
