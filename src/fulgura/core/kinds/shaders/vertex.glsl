#version 300 es
precision highp float;
precision highp sampler2D;
precision highp usampler2D;
out vec2 v_uv;               // what the prelude of fragment shaders names; meshes have none
uniform vec2 u_size;        // pixels of the target
uniform float u_steps;      // engine frames since this executor last drew, at least 1
uniform float u_time;       // stream time in seconds

// outside of every picture: what is not to be seen is put here
const vec4 NOWHERE = vec4(2.0, 2.0, 2.0, 1.0);
const vec2 CORNERS[6] = vec2[6](vec2(-1.0, -1.0), vec2(1.0, -1.0), vec2(1.0, 1.0), vec2(-1.0, -1.0),
    vec2(1.0, 1.0), vec2(-1.0, 1.0));

// From units of half the picture's height, up is positive, to where the picture's edges are at -1 and 1.
vec4 at_place(vec2 p) { return vec4(p / vec2(u_size.x / u_size.y, 1.0), 0.0, 1.0); }
vec2 turned(vec2 p, float degrees_) { float a = radians(degrees_); return mat2(cos(a), sin(a), -sin(a),
    cos(a)) * p; }
float brightness(vec3 c) { return dot(c, vec3(0.2126, 0.7152, 0.0722)); }   // of linear light: ITU-R BT.709
