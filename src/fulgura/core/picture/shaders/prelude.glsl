#version 300 es
precision highp float;
precision highp sampler2D;
in vec2 v_uv;               // 0..1 across and up the picture
out vec4 o_colour;          // linear light, premultiplied by alpha
uniform vec2 u_size;        // pixels of the target
uniform float u_steps;      // engine frames since this executor last drew, at least 1

// Where a pixel lies, in units of half the picture's height, up is positive.
vec2 place() { return (v_uv * 2.0 - 1.0) * vec2(u_size.x / u_size.y, 1.0); }
vec2 place_to_uv(vec2 p) { return p / vec2(u_size.x / u_size.y, 1.0) * 0.5 + 0.5; }

// Turn of hue as a rotation about the grey axis (Rodrigues' formula).
vec3 turn_hue(vec3 c, float degrees_) {
  float a = radians(degrees_);
  vec3 k = vec3(0.57735026919);
  return c * cos(a) + cross(k, c) * sin(a) + k * dot(k, c) * (1.0 - cos(a));
}
