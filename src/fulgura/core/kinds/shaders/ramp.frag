uniform float u_count, u_mix;
uniform float u_place_1, u_place_2, u_place_3, u_place_4, u_place_5, u_place_6, u_place_7, u_place_8;
uniform float u_place_9, u_place_10, u_place_11, u_place_12, u_place_13, u_place_14, u_place_15, u_place_16;
uniform float u_opacity_1, u_opacity_2, u_opacity_3, u_opacity_4, u_opacity_5, u_opacity_6, u_opacity_7,
    u_opacity_8, u_opacity_9, u_opacity_10, u_opacity_11, u_opacity_12, u_opacity_13, u_opacity_14,
    u_opacity_15, u_opacity_16;
uniform vec3 u_colour_1, u_colour_2, u_colour_3, u_colour_4, u_colour_5, u_colour_6, u_colour_7, u_colour_8,
    u_colour_9, u_colour_10, u_colour_11, u_colour_12, u_colour_13, u_colour_14, u_colour_15, u_colour_16;

// Linear sRGB to OKLab and back: B. Ottosson, "A perceptual color space for image processing" (2020).
vec3 to_oklab(vec3 c) {
  vec3 lms = mat3(0.4122214708, 0.2119034982, 0.0883024619, 0.5363325363, 0.6806995451, 0.2817188376,
      0.0514459929, 0.1073969566, 0.6299787005) * c;
  return mat3(0.2104542553, 1.9779984951, 0.0259040371, 0.7936177850, -2.4285922050, 0.7827717662,
      -0.0040720468, 0.4505937099, -0.8086757660) * pow(lms, vec3(1.0 / 3.0));
}
vec3 from_oklab(vec3 lab) {
  vec3 lms = mat3(1.0, 1.0, 1.0, 0.3963377774, -0.1055613458, -0.0894841775, 0.2158037573, -0.0638541728,
      -1.2914855480) * lab;
  return max(mat3(4.0767416621, -1.2684380046, -0.0041960863, -3.3077115913, 2.6097574011, -0.7034186147,
      0.2309699292, -0.3413193965, 1.7076147010) * (lms * lms * lms), 0.0);
}

// What lies next at or below a place, and next above it; of two at one place the later counts.
vec4 below, above;
float low, high;
float at;
void stop(float number, float where, vec3 colour, float opacity) {
  if (number > floor(u_count + 0.5)) return;
  if (where <= at && where >= low) { low = where; below = vec4(colour, opacity); }
  if (where > at && where < high) { high = where; above = vec4(colour, opacity); }
}

void main() {
  at = (gl_FragCoord.x - 0.5) / (u_size.x - 1.0);
  low = -1.0;
  high = 2.0;
  stop(1.0, u_place_1, u_colour_1, u_opacity_1);
  stop(2.0, u_place_2, u_colour_2, u_opacity_2);
  stop(3.0, u_place_3, u_colour_3, u_opacity_3);
  stop(4.0, u_place_4, u_colour_4, u_opacity_4);
  stop(5.0, u_place_5, u_colour_5, u_opacity_5);
  stop(6.0, u_place_6, u_colour_6, u_opacity_6);
  stop(7.0, u_place_7, u_colour_7, u_opacity_7);
  stop(8.0, u_place_8, u_colour_8, u_opacity_8);
  stop(9.0, u_place_9, u_colour_9, u_opacity_9);
  stop(10.0, u_place_10, u_colour_10, u_opacity_10);
  stop(11.0, u_place_11, u_colour_11, u_opacity_11);
  stop(12.0, u_place_12, u_colour_12, u_opacity_12);
  stop(13.0, u_place_13, u_colour_13, u_opacity_13);
  stop(14.0, u_place_14, u_colour_14, u_opacity_14);
  stop(15.0, u_place_15, u_colour_15, u_opacity_15);
  stop(16.0, u_place_16, u_colour_16, u_opacity_16);
  // Below the first and above the last there is that one alone.
  if (low < 0.0) below = above;
  if (high > 1.5) above = below;
  float share = u_mix > 0.5 || low < 0.0 || high > 1.5 ? 0.0 : (at - low) / (high - low);
  // Premultiplied, as CSS Color 4 (12.3) mixes: what is clear lends no colour.
  float opacity = mix(below.a, above.a, share);
  vec3 lab = mix(to_oklab(below.rgb) * below.a, to_oklab(above.rgb) * above.a, share);
  o_colour = vec4(opacity > 0.0 ? from_oklab(lab / opacity) * opacity : vec3(0.0), opacity);
}
