import { CLOUD_WAYS, MOST_OPAQUE } from '#core/light/dark-air.ts';
import { common } from './colour.ts';
import { eye } from './eye.ts';
import { shadowLookup } from './light.ts';

/**
 * Walks from the front of the box to its back and gathers colour and opacity, front to back. The opacity of the curve
 * is for a way of one fortieth of the diagonal; shorter steps take their share of it (Beer and Lambert's law).
 */
export const volumeFragment = /* glsl */ `
precision highp sampler3D;
${common}
uniform sampler3D uGrid;
uniform sampler2D uCurve;
uniform vec3 uBoxLow;
uniform vec3 uBoxHigh;
${eye}
#ifdef LIT
${shadowLookup}
uniform bool uEven;
/**
 * What is left of light that is scattered several times on its way: as if some of it had met a thinner cloud (Wrenninge, Kulla
 * and Lundqvist 2013, "Oz: The Great and Volumetric", of which two octaves are taken).
 */
float scattered(float leaves) { return 0.5 * (leaves + sqrt(sqrt(leaves))); }
/** Of light from the lights and from above and below, how much a place in the cloud gets, evenly scattered. */
float lightWithin(vec3 place, float chance) {
  float key = 0.0;
  for (int i = 0; i < uLampCount; i++) {
    float leaves = uShadow ? scattered(cloudLeaves(place, uLights[i].xyz, chance, 8)) : 1.0;
    key += uLights[i].w * brightness(uLampColours[i]) * leaves;
  }
  float above = brightness(matteSky(uUp)) * scattered(cloudLeaves(place, uUp, chance, 4));
  float below = brightness(matteSky(-uUp)) * scattered(cloudLeaves(place, -uUp, chance, 4));
  return uPlainScale * (uKeyStrength * key + uSkyStrength * 0.5 * (above + below));
}
#else
uniform float uPass;
uniform vec2 uCorner;
#endif
uniform float uSteps;
uniform vec2 uValues;
/** Where a layer before it ends, where the one behind it begins, and where what is opaque does. */
uniform bool uPeeled;
uniform sampler2D uPeelBefore;
uniform bool uPeelEnds;
uniform sampler2D uPeelUntil;
uniform sampler2D uBefore;
uniform mat4 uUnproject;
uniform vec2 uPixels;
uniform int uAway;
in vec3 vWorld;
/** How far along the ray from 'vWorld' such a depth lies. */
float wayTo(float depth, vec3 ray) {
  vec4 there = uUnproject * vec4(gl_FragCoord.xy / uPixels * 2.0 - 1.0, depth * 2.0 - 1.0, 1.0);
  return dot(there.xyz / there.w - vWorld, ray);
}
void main() {
  if (uAway == 2) discard;
  vec3 ray = uParallel ? -uTowards : normalize(vWorld - uEye);
  vec3 inverse = 1.0 / (ray + vec3(equal(ray, vec3(0.0))) * 1e-12);
  vec3 far3 = max((uBoxLow - vWorld) * inverse, (uBoxHigh - vWorld) * inverse);
  vec3 near3 = min((uBoxLow - vWorld) * inverse, (uBoxHigh - vWorld) * inverse);
  // Faces at the back are drawn, so that one can stand inside: from there back to where the ray came in.
  float leave = 0.0;
  // Opaque things in the way end the ray.
  ivec2 pixel = ivec2(gl_FragCoord.xy);
  float depth = texelFetch(uBefore, pixel, 0).r;
  if (uPeelEnds) depth = min(depth, texelFetch(uPeelUntil, pixel, 0).r);
  if (depth < 1.0) leave = min(leave, wayTo(depth, ray));
  float enter = max(max(near3.x, near3.y), near3.z);
  if (!uParallel) enter = max(enter, -distance(vWorld, uEye));
  float diagonal = distance(uBoxLow, uBoxHigh);
  float stride = diagonal / uSteps;
  float shift = fract(52.9829189 * fract(dot(gl_FragCoord.xy + uCorner, vec2(0.06711056, 0.00583715))) + uPass * 0.61803399);
  vec3 light = vec3(0.0);
  float clear = 1.0;
  float share = ${CLOUD_WAYS}.0 / uSteps;
  float t = enter + stride * shift;
  // Whatever layers lie in it, a cloud is looked into at the same places.
  if (uPeeled) t += stride * max(0.0, ceil((wayTo(texelFetch(uPeelBefore, pixel, 0).r, ray) - t) / stride));
  for (; t < leave; t += stride) {
    vec3 at = (vWorld + ray * t - uBoxLow) / (uBoxHigh - uBoxLow);
    vec2 seen = texture(uGrid, at).rg;
    if (seen.g < 0.5) continue;
    float value = mix(uValues.x, uValues.y, seen.r / seen.g);
    if (isHidden(value, 1.0)) continue;
    vec4 own = ownColour(value, 1.0);
    // Without a scale its own values take the place of one.
    float place = uHasField ? scaleFraction(value) : seen.r / seen.g;
    float dense = texture(uCurve, vec2(place * (255.0 / 256.0) + 0.5 / 256.0, 0.5)).r * uOpacity * own.a;
    float opacity = 1.0 - pow(1.0 - min(dense, ${MOST_OPAQUE}), share);
#ifdef LIT
    if (!uEven) own.rgb *= lightWithin(vWorld + ray * t, shift);
#endif
    light += clear * opacity * own.rgb;
    clear *= 1.0 - opacity;
    if (clear < 0.01) break;
  }
  float strength = uAway == 1 ? 0.15 : 1.0;
  put(vec4(light, 1.0 - clear) * strength);
}
`;
