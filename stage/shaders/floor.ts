import { FLOOR, outputs } from './colour.ts';
import { haze } from './haze.ts';
import { shadowLookup } from './light.ts';
import { worldVertex } from './world.ts';

/** How far a floor reaches, and what it mirrors. */
export const floorFunction = /* glsl */ `
uniform vec3 uCentre;
uniform float uReach;
/** Whether it has colours of its own, by turns where its tiles have an edge; or those of the backdrop behind it. */
uniform bool uOwnFloor;
/** Share of the light straight on that it mirrors. */
uniform float uMirrors;
/** What stands on it, mirrored, with the free share of each pixel. */
uniform sampler2D uMirrored;

/** Whether it bends up to a wall. */
uniform bool uSweep;

/** Far away, or high above, it becomes the backdrop. */
float floorFade(vec3 place) {
  if (uSweep) return smoothstep(0.6, 0.95, dot(place - uCentre, uUp) / uReach);
  return smoothstep(0.22 * uReach, 0.62 * uReach, length(place - uCentre));
}
/** Share of the light that it mirrors: the flatter it is looked at, the more (Schlick 1994). */
float mirroredShare(vec3 place) {
  float facing = clamp(dot(towardsEye(place), uUp), 0.0, 1.0);
  // Only what is level shows the mirrored world where it is drawn.
  float level = 1.0 - smoothstep(0.0, 0.002, dot(place - uCentre, uUp) / uReach);
  return (uMirrors + (1.0 - uMirrors) * pow(1.0 - facing, 5.0)) * (1.0 - floorFade(place)) * level;
}
/** What it mirrors besides: where nothing stands on it, what is up in the room; a floor in the colour of the backdrop stays it. */
vec3 mirroredRoom(float free) {
  return uOwnFloor ? free * uTop : vec3(0.0);
}
/** How much of what is mirrored hides the floor. */
float mirrorHides(float share, float free) {
  return share * (uOwnFloor ? 1.0 : 1.0 - free);
}
`;

/** The floor darkens where the model keeps light away. */
export const floorLight = /* glsl */ `
/** Share of its light that the floor gets, of light on it: with shadows, without, and with the whole sky. */
vec3 floorShare(vec3 light, vec3 place) {
  vec3 sky = matteSky(uUp);
  mat3 free = matteLight(Arriving(1.0, sky, sky, sky), uUp);
  return mix(light / max(plainLight(free).x, 1e-4), vec3(1.0), 0.12 + 0.88 * floorFade(place));
}
`;

export const floorVertex = worldVertex;

/** In passes only its colour; it is lit with everything else. */
export const floorFragment = /* glsl */ `
precision highp float;
precision highp sampler2D;
${outputs}
${haze}
in vec3 vWorld;
in vec4 vClip;
in vec3 vNormal;
uniform vec3 uFloorColours[2];
/** Length of the edge of a tile; 0 where there are none. */
uniform float uFloorEdge;
/** The way of one side of the tiles. */
uniform vec3 uFloorSide;
#ifdef SURFACES
uniform vec3 uUp;
#else
${shadowLookup}
uniform bool uEven;
#endif
${floorFunction}
#ifndef SURFACES
${floorLight}
#endif
/** Half the width of a joint, in edges of a tile. */
const float JOINT = 0.008;

vec3 ownFloor() {
  if (uFloorEdge == 0.0) return uFloorColours[0];
  vec2 at = vec2(dot(vWorld, uFloorSide), dot(vWorld, cross(uUp, uFloorSide))) / uFloorEdge;
  vec2 pixel = max(fwidth(at), vec2(1e-6));
  vec2 tile = floor(at);
  vec3 even = 0.5 * (uFloorColours[0] + uFloorColours[1]);
  vec3 own = uFloorColours[int(mod(tile.x + tile.y, 2.0))];
  // A joint narrower than a pixel is as dark as its share of it.
  vec2 apart = 0.5 - abs(fract(at) - 0.5);
  vec2 covered = clamp((JOINT - apart) / pixel + 0.5, 0.0, 1.0) * min(vec2(1.0), 2.0 * JOINT / pixel);
  vec3 jointed = mix(own, 0.6 * even, max(covered.x, covered.y));
  // Where several tiles share a pixel only their mean is left.
  return mix(jointed, even, smoothstep(0.3, 0.8, max(pixel.x, pixel.y)));
}

void main() {
  vec3 colour = backdropAt(vClip.xy / vClip.w * 0.5 + 0.5);
  if (uOwnFloor) {
    float fade = floorFade(vWorld);
    colour = uTransparent ? (1.0 - fade) * ownFloor() : mix(ownFloor(), colour, fade);
  }
#ifdef SURFACES
  outColour = vec4(colour, 1.0);
  outLight = vec4(${FLOOR}.0 * normalize(vNormal), depthOf(vWorld));
#else
  vec3 normal = normalize(vNormal);
  vec3 light = plainLight(matteLight(arrivingAt(normal, vWorld, normal * uBias), normal));
  vec3 shown = colour * (uEven ? 1.0 : floorShare(light, vWorld).x);
  if (uMirrors > 0.0) {
    vec4 mirrored = texelFetch(uMirrored, ivec2(gl_FragCoord.xy), 0);
    float share = mirroredShare(vWorld);
    shown = shown * (1.0 - mirrorHides(share, mirrored.a)) + share * (mirrored.rgb + mirroredRoom(mirrored.a));
  }
  put(hazed(vec4(shown, 1.0), depthOf(vWorld), false));
#endif
}
`;
