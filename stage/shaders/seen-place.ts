/** From a pixel and its distance to a place of the world; see `lensOf`. */
export const seenPlace = /* glsl */ `
/** To the right and upwards on the picture. */
uniform vec3 uRight;
uniform vec3 uRise;
/** From the picture to the directions of the camera: what is added to -1..1, and then how much of a distance that is. */
uniform vec4 uLens;
/** Where something lies at a place 0..1 of the picture, so far away along the axis. */
vec3 seenPlace(vec2 onPicture, float distance) {
  vec2 aside = (2.0 * onPicture - 1.0 + uLens.xy) * uLens.zw * (uParallel ? 1.0 : distance);
  return uEye + aside.x * uRight + aside.y * uRise - distance * uTowards;
}
`;
