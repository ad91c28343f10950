const vec3 TETRA[4] = vec3[4](vec3(1.0), vec3(1.0, -1.0, -1.0), vec3(-1.0, 1.0, -1.0), vec3(-1.0, -1.0, 1.0));
const int SIDES[12] = int[12](0, 1, 2, 0, 3, 1, 0, 2, 3, 1, 3, 2);

// What a solid is: u_solid. One corner of it and the direction that its face looks; false when it has no such corner.
bool corner_of(int id, out vec3 at, out vec3 normal) {
  if (u_solid < 0.5) {
    if (id >= 36) return false;
    int face = id / 6;
    float way = face % 2 == 0 ? 1.0 : -1.0;
    vec2 c = CORNERS[id % 6];
    if (face < 2) { at = vec3(way, c); normal = vec3(way, 0.0, 0.0); }
    else if (face < 4) { at = vec3(c.x, way, c.y); normal = vec3(0.0, way, 0.0); }
    else { at = vec3(c, way); normal = vec3(0.0, 0.0, way); }
  } else if (u_solid < 1.5) {
    if (id >= 288) return false;
    vec2 c = (CORNERS[id % 6] * 0.5 + 0.5 + vec2(float((id / 6) % 8), float(id / 48))) / vec2(8.0, 6.0);
    float a = c.x * 6.28318530718, b = (c.y - 0.5) * 3.14159265359;
    at = normal = vec3(cos(b) * cos(a), sin(b), cos(b) * sin(a));
  } else if (u_solid < 2.5) {
    if (id >= 12) return false;
    int side = id / 3;
    vec3 a = TETRA[SIDES[3 * side]], b = TETRA[SIDES[3 * side + 1]], c = TETRA[SIDES[3 * side + 2]];
    at = id % 3 == 0 ? a : id % 3 == 1 ? b : c;
    normal = normalize(a + b + c);
  } else {
    if (id >= 6) return false;
    at = vec3(CORNERS[id], 0.0);
    normal = vec3(0.0, 0.0, 1.0);
  }
  return true;
}
