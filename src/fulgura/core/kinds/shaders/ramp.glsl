uniform sampler2D u_ramp;
uniform float u_ramped, u_row;

// The colour at a share of a ramp, or of a row of a picture: linear light, premultiplied.
vec4 of_ramp(float share) {
  return textureLod(u_ramp, vec2((clamp(share, 0.0, 1.0) * 255.0 + 0.5) / 256.0, u_row), 0.0);
}
