/** Who looks, as every shader may ask for it: those put together of several parts get it once. */
export const eye = /* glsl */ `
#ifndef EYE
#define EYE
uniform vec3 uEye;
/** Out of the picture, towards whoever looks. */
uniform vec3 uTowards;
/** What tells how far a place lies into the picture; the same, unless the picture is one of a mirrored world. */
uniform vec3 uDeep;
uniform bool uParallel;
/** From a place towards the eye, of length one. */
vec3 towardsEye(vec3 place) { return uParallel ? uTowards : normalize(uEye - place); }
/** How far a place lies into the picture. */
float depthOf(vec3 place) { return dot(uEye - place, uDeep); }
#endif
`;
