// What lines that begin with "once" can call (see compiler.py); the vertex shader works them out.
float aspect() { return u_size.x / u_size.y; }

// A turn to the left.
mat2 turn(float degrees_) { float a = radians(degrees_); return mat2(cos(a), sin(a), -sin(a), cos(a)); }

// The same change of places, for where they lie in the picture (0..1): about its middle.
mat2 on_picture(mat2 change) { float w = aspect(); return mat2(change[0][0], change[0][1] * w,
    change[1][0] / w, change[1][1]); }
vec2 step_on_picture(vec2 by) { return 0.5 * by / vec2(aspect(), 1.0); }

// Turn of hue as a rotation about the grey axis (Rodrigues' formula).
mat3 hue_turn(float degrees_) {
  float a = radians(degrees_), c = cos(a), s = sin(a) * 0.57735026919, k = (1.0 - c) / 3.0;
  return mat3(c + k, k + s, k - s, k - s, c + k, k + s, k + s, k - s, c + k);
}

// A line for line_light: where its edge begins, by what its softness is divided, how far light spills, and
// how much.
vec4 line_of(float width, float softness, float glow) {
  float begins = 0.5 * width * (1.0 - softness);
  return vec4(begins, 1.0 / (0.5 * width + 2.0 / u_size.y - begins), 1.0 / (0.02 + 4.0 * width * width),
      glow);
}
