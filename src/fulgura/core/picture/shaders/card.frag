uniform float u_card;

float line(float off, float width) { return 1.0 - smoothstep(width, width + 1.5, off); }

// Test cards: 1 a grid of squares with its diagonals, 2 circles, 3 colours and steps of grey.
void main() {
  vec2 at = v_uv * u_size, middle = 0.5 * u_size, off = at - middle;
  float side = u_size.y / 9.0, width = max(1.0, u_size.y / 540.0);
  vec2 edge = min(at, u_size - at);
  float frame = line(min(edge.x, edge.y), 2.0 * width);
  float cross = line(min(abs(off.x), abs(off.y)), width);
  if (u_card < 1.5) {
    vec2 cell = abs(mod(off + 0.5 * side, side) - 0.5 * side);
    float grid = line(min(cell.x, cell.y), 0.5 * width);
    float slope = u_size.y / u_size.x, slant = min(abs(off.y - off.x * slope), abs(off.y + off.x * slope));
    o_colour = vec4(vec3(0.25) * grid + vec3(0.75, 0.25, 0.05) * line(slant, width) + vec3(0.9, 0.7, 0.1) * cross +
            vec3(1.0) * frame, 1.0);
  } else if (u_card < 2.5) {
    float ring = min(abs(length(off) - 0.48 * u_size.y), abs(length(off) - 0.24 * u_size.y));
    vec2 corner = abs(off) - (middle - 0.16 * u_size.y);
    float small = abs(length(corner) - 0.14 * u_size.y);
    o_colour = vec4(vec3(0.1, 0.5, 1.0) * line(ring, width) + vec3(0.9, 0.7, 0.1) * line(small, width) +
            vec3(0.4) * cross + vec3(1.0) * frame, 1.0);
  } else {
    float column = floor(v_uv.x * 8.0);
    vec3 full = vec3(mod(column, 2.0), mod(floor(column / 2.0), 2.0), floor(column / 4.0));
    float grey = floor(v_uv.x * 16.0) / 15.0;
    vec3 fine = vec3(mod(floor(gl_FragCoord.x), 2.0));
    o_colour = vec4(v_uv.y > 0.4 ? full : v_uv.y > 0.15 ? decoded(vec3(grey)) : fine, 1.0);
  }
}
