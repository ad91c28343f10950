uniform sampler2D u_fit;

// How an output fits its wall: src/fulgura/core/picture/fitting.py says what stands where.
vec4 fit(int at) { return texelFetch(u_fit, ivec2(at % 64, at / 64), 0); }
