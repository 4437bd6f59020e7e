import { FIRST_BODY, FLOOR, keptFinish, outputs } from './colour.ts';
import { finishing } from './finish.ts';
import { floorFunction, floorLight } from './floor.ts';
import { haze } from './haze.ts';
import { shadowLookup } from './light.ts';
import { seenPlace } from './seen-place.ts';

/**
 * The opaque things of one pass in their light. Each pixel is lit once, however many things lie behind one another:
 * looking for what is in the way costs far more than drawing does.
 */
export const litFragment = /* glsl */ `
precision highp float;
precision highp int;
precision highp sampler2D;
${outputs}
${keptFinish}
${shadowLookup}
${haze}
uniform bool uEven;
${floorFunction}
${floorLight}
uniform float uShift;
/** What the floor mirrors of light as it meets a camera. */
uniform sampler2D uMirroredScene;
#ifdef FINISHED
${finishing}
#endif
/** Colour, normal and distance, as 'outputs' tells. */
uniform sampler2D uColour;
uniform sampler2D uSurface;
${seenPlace}
in vec2 vPlace;
/** Light as it is shown, of which such a share is free to be seen through. */
void putShown(vec3 colour, vec3 light, float free) {
  outColour = vec4(colour * light.x, free);
  outLight = vec4(light.x, 0.0, light.y, light.z);
  outScene = vec4(0.0);
}
/** What no light falls on. */
void putAsIs(vec4 colour) {
  outColour = vec4(colour.rgb, 1.0 - colour.a);
  outLight = vec4(0.0, colour.a, 0.0, 0.0);
  outScene = vec4(0.0);
}
/** Puts over the floor what it mirrors, which the smoothing of its own light leaves alone. */
void addMirrored(vec4 colour, vec4 scene, float share) {
  float hides = mirrorHides(share, colour.a);
  outColour = outColour * (1.0 - hides) + share * vec4(colour.rgb + mirroredRoom(colour.a), 0.0);
  outLight = outLight * (1.0 - hides) + vec4(0.0, hides, 0.0, 0.0);
  outScene = share * scene;
}
/** Puts the haze in front of it. */
void addHaze(float distance, bool value) {
  float lost = hazeAt(distance, value);
  if (lost == 0.0) return;
  outColour = outColour * (1.0 - lost) + lost * vec4(hazeColour(), uTransparent ? 1.0 : 0.0);
  outLight = outLight * (1.0 - lost) + vec4(0.0, lost, 0.0, 0.0);
  outScene *= 1.0 - lost;
}
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  vec4 colour = texelFetch(uColour, at, 0);
  vec4 surface = texelFetch(uSurface, at, 0);
  float kind = length(surface.xyz);
  if (kind < 0.5) {
    // Nothing was drawn here.
    if (surface.w == 0.0) colour = uTransparent ? vec4(0.0) : vec4(backdropAt(vPlace), 1.0);
    putAsIs(colour);
    if (surface.w > 0.0) addHaze(surface.w, kind > 0.0);
    return;
  }
  vec3 place = seenPlace(vPlace, surface.w);
  vec3 normal = surface.xyz / kind;
  bool isFloor = kind < 0.5 * (${FLOOR}.0 + ${FIRST_BODY}.0);
  bool coloured;
  int finish = finishOf(colour.a, coloured);
  if (uEven && !isFloor) {
    putAsIs(vec4(colour.rgb, 1.0));
    addHaze(surface.w, coloured);
    return;
  }
  vec3 shift = normal * (isFloor ? uBias : uShift);
#ifdef FINISHED
  Worn worn;
  worn.normal = normal;
  // See 'wornAt' of loops that run once.
  for (int once = 0; once < min(finish, 1); once++) {
    worn = wornAt(finish, coloured, colour.rgb, normal, place);
    normal = worn.normal;
  }
#endif
  // What is in the way is looked for in one place alone: laid out once for each that asked, it would be slow to get ready.
  Arriving a = arrivingAt(normal, place, shift);
  mat3 matte = matteLight(a, normal);
  if (isFloor) {
    vec3 share = uEven ? vec3(1.0) : floorShare(plainLight(matte), place);
    // Without a backdrop there is only the shadow, or what has colours of its own.
    bool bare = uTransparent && !uOwnFloor;
    putShown(bare ? vec3(0.0) : colour.rgb, share, !uTransparent ? 0.0 : bare ? share.x : floorFade(place));
    if (uMirrors > 0.0) addMirrored(texelFetch(uMirrored, at, 0), texelFetch(uMirroredScene, at, 0), mirroredShare(place));
    addHaze(surface.w, false);
    return;
  }
  putShown(colour.rgb, plainLight(matte), 0.0);
#ifdef FINISHED
  for (int once = 0; once < min(finish, 1); once++) {
    vec3 shares;
    float hides;
    vec3 toEye = towardsEye(place);
    vec3 light = sentBy(worn, coloured, a, matte, toEye, shares, hides);
    outColour = vec4(coloured ? light : vec3(0.0), 0.0);
    outLight = vec4(shares.x, 0.0, shares.y, shares.z);
    outScene = coloured ? vec4(0.0) : vec4(light, 1.0);
  }
#endif
  addHaze(surface.w, coloured);
}
`;
