/** Where a direction of the world lies in the panorama of what shines around; for shaders put together of several parts, once. */
export const aroundFunction = /* glsl */ `
#ifndef AROUND
#define AROUND
/** Turns the world to the frame of the surroundings. */
uniform mat3 uToSurroundings;
vec2 surroundingsAt(vec3 direction) {
  vec3 d = uToSurroundings * direction;
  return vec2(atan(d.y, d.x) / 6.2831853 + 0.5, acos(clamp(d.z, -1.0, 1.0)) / 3.14159265);
}
#endif
`;
