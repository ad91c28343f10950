uniform sampler2D u_source;
uniform float u_shines; // 1 for a picture that is still to be dimmed by the light of the whole
uniform float u_light;

// What a cell of the picture gives, by nine of its pixels.
void main() {
  vec2 size = vec2(textureSize(u_source, 0)), cell = size / u_size;
  vec2 corner = floor(gl_FragCoord.xy) * cell;
  vec3 sum = vec3(0.0);
  for (int y = 0; y < 3; y++)
    for (int x = 0; x < 3; x++) {
      vec2 at = corner + (vec2(x, y) + 0.5) / 3.0 * cell;
      sum += clamp(texelFetch(u_source, ivec2(min(at, size - 1.0)), 0).rgb, 0.0, 1.0);
    }
  o_colour = vec4(sum / 9.0 * (u_shines > 0.5 ? u_light : 1.0), 1.0);
}
