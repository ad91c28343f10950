#version 300 es
precision highp float;
precision highp sampler2D;
in vec2 v_uv;               // 0..1 across and up the picture
out vec4 o_colour;          // linear light, premultiplied by alpha
uniform vec2 u_size;        // pixels of the target
uniform float u_steps;      // engine frames since this executor last drew, at least 1
uniform float u_time;       // stream time in seconds

// Where a pixel lies, in units of half the picture's height, up is positive.
vec2 place() { return (v_uv * 2.0 - 1.0) * vec2(u_size.x / u_size.y, 1.0); }
vec2 place_to_uv(vec2 p) { return p / vec2(u_size.x / u_size.y, 1.0) * 0.5 + 0.5; }

// The texel of a picture of the same size that lies just here: half the price of one that is looked up
// between texels.
vec4 here(sampler2D picture) { return texelFetch(picture, ivec2(gl_FragCoord.xy), 0); }

// Linear light to what a display expects, and back: IEC 61966-2-1. Its powers are fitted by polynomials here
// (least
// squares over where they hold; off by less than a tenth of a step of eight bits), for a power costs as much
// as a texture.
vec3 encoded(vec3 light) {
  vec3 c = clamp(light, 0.0, 1.0), q = sqrt(sqrt(c));
  return mix(c * 12.92, ((-0.136807 * q + 0.952529) * q + 0.255831) * q - 0.0717686, step(0.0031308, c));
}
vec3 decoded(vec3 shown) {
  vec3 s = shown;
  return mix(s / 12.92, ((((0.0597798 * s - 0.241166) * s + 0.611379) * s + 0.538865) * s + 0.0301528) * s +
      0.00101064, step(0.04045, s));
}

// A fixed number 0..1 for a place: its own at every whole pair.
float hash(vec2 p) {
  vec3 q = fract(vec3(p.xyx) * 0.1031);
  q += dot(q, q.yzx + 33.33);
  return fract((q.x + q.y) * q.z);
}

// exp(-x) for x of 0 and more, within 0.036, by four multiplications; nothing is left at 8.
float fall(float x) { float k = max(1.0 - 0.125 * x, 0.0); k *= k; k *= k; return k * k; }

// Distance to the middle of a line as light: full within half the width, soft outside, with a spill around
// it. How: see line_of.
float line_light(float off, vec4 how) {
  float t = clamp((off - how.x) * how.y, 0.0, 1.0), line = 1.0 - t * t * (3.0 - 2.0 * t);
  return line + how.w * fall(off * off * how.z) * (1.0 - line);
}
