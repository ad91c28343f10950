uniform float u_key_azimuth, u_key_elevation, u_level, u_haze, u_glow, u_roughness, u_metallic, u_distance,
    u_distance_2, u_framing, u_aperture, u_focus, u_key;
uniform vec3 u_sky;
in vec3 v_normal, v_place, v_skin;
in float v_bright;

// Key light and sky, Lambert's law, and a highlight after Blinn (SIGGRAPH 1977) that is wide where the
// surface is rough.
vec3 lit() {
  vec3 to_eye = normalize(vec3(0.0, 0.0, mix(u_distance, u_distance_2, u_framing)) - v_place),
      n = normalize(v_normal);
  if (dot(n, to_eye) < 0.0) n = -n;
  float a = radians(u_key_azimuth), b = radians(u_key_elevation);
  vec3 key = vec3(cos(b) * sin(a), sin(b), cos(b) * cos(a));
  float rough = max(u_roughness, 0.08), sharp = 2.0 / (rough * rough * rough * rough) - 2.0;
  float shine = pow(max(dot(n, normalize(key + to_eye)), 0.0), max(sharp, 1.0)) * (1.0 - rough) * 1.5 * u_key;
  vec3 light = v_skin * (0.85 * u_key * max(dot(n, key), 0.0) * (1.0 - 0.6 * u_metallic) + u_glow * v_bright * 1.5);
  light += u_sky * (0.35 + 0.65 * max(n.y, 0.0)) * mix(vec3(0.5), v_skin, 0.5);
  vec3 reflected = u_sky * smoothstep(-0.2, 0.9, reflect(-to_eye, n).y) * u_metallic * 2.0;
  light += mix(vec3(1.0), v_skin, u_metallic) * (shine + reflected);
  light *= u_level * (1.0 - u_haze * smoothstep(-1.0, 1.5, -v_place.z));
  return light;
}

// What is out of focus says so in alpha, above 1: the share of the widest blur (thin lens: grows with the
// distance from the focus, by the distance).
float how_sharp() {
  float away = max(mix(u_distance, u_distance_2, u_framing) - v_place.z, 0.05);
  return u_aperture > 0.0 ? 1.0 + min(1.0, 3.0 * u_aperture * abs(away - u_focus) / away) : 1.0;
}
