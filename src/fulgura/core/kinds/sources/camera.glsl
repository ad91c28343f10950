uniform float u_azimuth, u_elevation, u_distance, u_field_of_view, u_parallel, u_framing, u_azimuth_2,
    u_elevation_2, u_distance_2, u_field_of_view_2;

// From the scene (units of half the picture's height, towards us is +z) to the camera's own axes.
vec3 to_camera(vec3 p) {
  float a = radians(mix(u_azimuth, u_azimuth_2, u_framing)), b = radians(mix(u_elevation, u_elevation_2,
      u_framing));
  p = vec3(cos(a) * p.x - sin(a) * p.z, p.y, sin(a) * p.x + cos(a) * p.z);
  return vec3(p.x, cos(b) * p.y - sin(b) * p.z, sin(b) * p.y + cos(b) * p.z);
}
// What the camera sees of a place given in its axes.
vec4 seen(vec3 p) {
  float away = mix(u_distance, u_distance_2, u_framing), f = 1.0 / tan(0.5 * radians(mix(u_field_of_view,
      u_field_of_view_2, u_framing)));
  float z = away - p.z, near = 0.05, far = 30.0;
  float aspect = u_size.x / u_size.y;
  if (u_parallel > 0.5) return vec4(f * p.x / (aspect * away), f * p.y / away,
      2.0 * (z - near) / (far - near) - 1.0, 1.0);
  return vec4(f * p.x / aspect, f * p.y, ((far + near) * z - 2.0 * far * near) / (far - near), z);
}
