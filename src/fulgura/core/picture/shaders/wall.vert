#version 300 es
precision highp float;
precision highp int;
precision highp sampler2D;
#include "fit.glsl"
uniform float u_first, u_columns, u_rows, u_between, u_straight;
out vec2 v_uv;

// A cubic through evenly spaced points (Catmull and Rom, 1974): which is the second of four, and their weights.
vec4 weights(float share, int points, out int second) {
  float along = share * float(points - 1);
  second = min(int(floor(along)), points - 2);
  float t = along - float(second);
  return vec4(((-0.5 * t + 1.0) * t - 0.5) * t, (1.5 * t - 2.5) * t * t + 1.0,
      ((-1.5 * t + 2.0) * t + 0.5) * t, (0.5 * t - 0.5) * t * t);
}

// A point of a row; one before an end is as far from it as the one behind it.
vec2 point(int column, int row) {
  int first = int(u_first) + 4 + row * int(u_columns), last = int(u_columns) - 1;
  if (column < 0) return 2.0 * fit(first).xy - fit(first + 1).xy;
  if (column > last) return 2.0 * fit(first + last).xy - fit(first + last - 1).xy;
  return fit(first + column).xy;
}

vec2 of_row(int row, int second, vec4 shares) {
  vec2 sum = vec2(0.0);
  for (int i = 0; i < 4; i++) sum += shares[i] * point(second - 1 + i, row);
  return sum;
}

vec2 bent(vec2 place) {
  int column, row, last = int(u_rows) - 1;
  vec4 across = weights(place.x, int(u_columns), column), down = weights(place.y, int(u_rows), row);
  vec2 sum = vec2(0.0);
  for (int i = 0; i < 4; i++) {
    int at = row - 1 + i;
    vec2 line = at < 0 ? 2.0 * of_row(0, column, across) - of_row(1, column, across)
              : at > last ? 2.0 * of_row(last, column, across) - of_row(last - 1, column, across)
                          : of_row(at, column, across);
    sum += down[i] * line;
  }
  return sum;
}

void main() {
  int wide = (int(u_columns) - 1) * int(u_between), high = (int(u_rows) - 1) * int(u_between);
  int quad = gl_VertexID / 6, corner = gl_VertexID % 6;
  ivec2 at = ivec2(quad % wide, quad / wide) +
      ivec2(corner == 1 || corner == 2 || corner == 4 ? 1 : 0, corner == 2 || corner == 4 || corner == 5 ? 1 : 0);
  vec2 place = vec2(at) / vec2(wide, high);
  vec3 where = vec3(u_straight > 0.5 ? place : bent(place), 1.0);
  int first = int(u_first);
  vec3 on = vec3(dot(fit(first).xyz, where), dot(fit(first + 1).xyz, where), dot(fit(first + 2).xyz, where));
  vec4 cut = fit(first + 3), whole = fit(2);
  vec2 seen = whole.xy + (cut.xy + place * cut.zw) * whole.zw;
  v_uv = vec2(seen.x, 1.0 - seen.y);
  // Its third number divides: what lies between the corners is seen as from where they were set.
  gl_Position = vec4(2.0 * on.x - on.z, on.z - 2.0 * on.y, 0.0, on.z);
}
