// What the guard knows of a cell of the picture: src/fulgura/core/safety/guard.py says what is what, and does the
// same.
precision highp int;
uniform float u_step, u_darker_below, u_red_share, u_red_step, u_glow_step, u_dark;
uniform float u_most_changes, u_second, u_steady, u_held;

struct Past {
  bool known, fresh, rising, counted, red, kindling; // fresh: it may go either way first
  float extreme, begun, glow, waits, calm;           // begun, counted: of the way that it goes now
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
  uint bright = uint(told.x), colour = uint(told.y), more = uint(told.w);
  past.extreme = float(bright & 1023u) / 1023.0;
  past.begun = float((bright >> 10) & 1023u) / 1023.0;
  past.fresh = ((bright >> 20) & 1u) == 1u;
  past.rising = ((bright >> 21) & 1u) == 1u;
  past.counted = ((bright >> 22) & 1u) == 1u;
  past.known = (bright >> 23) == 1u;
  past.colour = vec2(float(colour & 127u), float((colour >> 7) & 127u)) / 127.0;
  past.glow = float((colour >> 14) & 127u) / 127.0;
  past.red = ((colour >> 21) & 1u) == 1u;
  past.kindling = (colour >> 22) == 1u;
  past.first = uint(told.z);
  past.second = more & 4095u;
  past.waits = float((more >> 12) & 15u);
  past.calm = float(more >> 16);
  return past;
}

vec4 told_of(Past past) {
  uvec3 colour = uvec3(vec3(past.colour, past.glow) * 127.0 + 0.5);
  uint flags = (past.red ? 2097152u : 0u) | (past.kindling ? 4194304u : 0u);
  uvec2 bright = uvec2(clamp(vec2(past.extreme, past.begun), 0.0, 1.0) * 1023.0 + 0.5);
  uint ways = (past.fresh ? 1048576u : 0u) | (past.rising ? 2097152u : 0u) | (past.counted ? 4194304u : 0u);
  uint more = past.second | (uint(past.waits) << 12) | (uint(past.calm) << 16);
  return vec4(float(bright.x | (bright.y << 10) | ways | 8388608u),
      float(colour.x | (colour.y << 7) | (colour.z << 14) | flags), float(past.first), float(more));
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

bool brightness_moves(float now, Past past) {
  bool falls = past.extreme - now >= u_step && now < u_darker_below;
  bool rises = now - past.extreme >= u_step && past.extreme < u_darker_below;
  return falls && (past.rising || past.fresh) || rises && (!past.rising || past.fresh);
}

// Whether it goes on the way that it went in the last picture; last: how bright that was.
bool goes_on(float now, float last, Past past) { return (now - last) * (last - past.begun) >= 0.0; }

// Whether one way becomes a step, also after another step that way with a turn between them.
bool way_moves(float now, float last, Past past) {
  bool on = goes_on(now, last, past);
  float begun = on ? past.begun : last;
  return !(on && past.counted) && abs(now - begun) >= u_step && min(now, begun) < u_darker_below;
}

bool hue_moves(vec3 light, Past past) {
  return (past.red || saturated_red(light)) && distance(chromaticity(light), past.colour) > u_red_step;
}

// How much more red than anything else a saturated red is.
float red_glow(vec3 light) { return saturated_red(light) ? max(light.r - light.g - light.b, 0.0) : 0.0; }

bool glow_moves(vec3 light, Past past) {
  float now = red_glow(light);
  return past.kindling ? past.glow - now >= u_glow_step : now - past.glow >= u_glow_step;
}

// last: the light of the last picture.
bool moves(vec3 light, vec3 last, Past past) {
  float now = luminance(light);
  return brightness_moves(now, past) || way_moves(now, luminance(last), past) || hue_moves(light, past) || glow_moves(light, past);
}
