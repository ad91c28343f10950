// What the guard knows of a cell of the picture: src/fulgura/core/safety/guard.py says what is what, and does the
// same.
precision highp int;
uniform float u_step, u_darker_below, u_red_share, u_red_step, u_dark;
uniform float u_most_changes, u_second, u_steady, u_held;

struct Past {
  bool known, fresh, rising, red; // fresh: it may go either way first
  float extreme, waits, calm;
  vec2 colour;
  uint first, second; // when the newest four changes were, and the two before: six bits each
};

float luminance(vec3 light) { return dot(light, vec3(0.2126, 0.7152, 0.0722)); }

vec2 chromaticity(vec3 light) {
  float x = dot(light, vec3(0.4124, 0.3576, 0.1805)), y = luminance(light);
  float z = dot(light, vec3(0.0193, 0.1192, 0.9505)), whole = x + 15.0 * y + 3.0 * z;
  return whole < 15.0 * u_dark ? vec2(0.19784, 0.46834) : vec2(4.0 * x, 9.0 * y) / whole;
}

bool saturated_red(vec3 light) {
  float whole = light.r + light.g + light.b;
  return whole > u_dark && light.r >= u_red_share * whole;
}

Past past_of(vec4 told) {
  Past past;
  past.known = told.x > 0.0;
  past.fresh = told.x >= 6.0;
  past.rising = told.x < 4.0;
  past.extreme = told.x - (past.fresh ? 6.0 : past.rising ? 2.0 : 4.0);
  uint colour = uint(told.y), more = uint(told.w);
  past.colour = vec2(float(colour & 1023u), float((colour >> 10) & 1023u)) / 1023.0;
  past.red = (colour >> 20) == 1u;
  past.first = uint(told.z);
  past.second = more & 4095u;
  past.waits = float((more >> 12) & 15u);
  past.calm = float(more >> 16);
  return past;
}

vec4 told_of(Past past) {
  uvec2 colour = uvec2(past.colour * 1023.0 + 0.5);
  uint more = past.second | (uint(past.waits) << 12) | (uint(past.calm) << 16);
  return vec4((past.fresh ? 6.0 : past.rising ? 2.0 : 4.0) + clamp(past.extreme, 0.0, 1.0),
      float(colour.x | (colour.y << 10) | (past.red ? 1048576u : 0u)), float(past.first), float(more));
}

// Of six bits each: so much less, down to none.
uint older(uint times, uint many, uint steps) {
  uint found = 0u;
  for (uint i = 0u; i < many; i++) {
    uint time = (times >> (6u * i)) & 63u;
    found |= (time > steps ? time - steps : 0u) << (6u * i);
  }
  return found;
}

uint how_many(uint times, uint many) {
  uint found = 0u;
  for (uint i = 0u; i < many; i++) found += ((times >> (6u * i)) & 63u) > 0u ? 1u : 0u;
  return found;
}

bool brightness_moves(vec3 light, Past past) {
  float now = luminance(light);
  bool falls = past.extreme - now >= u_step && now < u_darker_below;
  bool rises = now - past.extreme >= u_step && past.extreme < u_darker_below;
  return falls && (past.rising || past.fresh) || rises && (!past.rising || past.fresh);
}

bool red_moves(vec3 light, Past past) {
  return (past.red || saturated_red(light)) && distance(chromaticity(light), past.colour) > u_red_step;
}

bool moves(vec3 light, Past past) { return brightness_moves(light, past) || red_moves(light, past); }
