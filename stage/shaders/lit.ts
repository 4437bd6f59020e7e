import { backdropFunction, floorFunction } from './backdrop.ts';
import { FLOOR, outputs } from './colour.ts';
import { shadowLookup } from './light.ts';

/**
 * The opaque things of one pass in their light. Each pixel is lit once, however many things lie behind one another:
 * looking for what is in the way costs far more than drawing does.
 */
export const litFragment = /* glsl */ `
precision highp float;
precision highp int;
precision highp sampler2D;
${outputs}
${shadowLookup}
${backdropFunction}
${floorFunction}
/** Colour, normal and distance, as 'outputs' tells. */
uniform sampler2D uColour;
uniform sampler2D uSurface;
uniform vec3 uEye;
uniform vec3 uTowards;
uniform bool uParallel;
uniform float uShift;
/** To the right and upwards on the picture. */
uniform vec3 uRight;
uniform vec3 uRise;
/** From the picture to the directions of the camera: what is added to -1..1, and then how much of a distance that is. */
uniform vec4 uLens;
in vec2 vPlace;
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  vec4 colour = texelFetch(uColour, at, 0);
  vec4 surface = texelFetch(uSurface, at, 0);
  float kind = length(surface.xyz);
  if (kind < 0.5) {
    // Nothing was drawn here.
    if (surface.w == 0.0 && !uTransparent) colour = vec4(backdropAt(vPlace), 1.0);
    put(colour);
    return;
  }
  vec2 aside = (2.0 * vPlace - 1.0 + uLens.xy) * uLens.zw * (uParallel ? 1.0 : surface.w);
  vec3 place = uEye + aside.x * uRight + aside.y * uRise - surface.w * uTowards;
  vec3 normal = surface.xyz / kind;
  if (kind > 0.5 * (1.0 + ${FLOOR})) putFloor(colour.rgb, place);
  else putLit(colour.rgb, lightOn(normal, place, normal * uShift));
}
`;
