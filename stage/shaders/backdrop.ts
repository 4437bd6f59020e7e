import { FLOOR, outputs } from './colour.ts';
import { eye } from './eye.ts';
import { shadowLookup } from './light.ts';

/** The backdrop: a soft fall of light from the top of the whole picture to its foot, whatever tile is drawn. */
export const backdropFunction = /* glsl */ `
uniform vec3 uTop;
uniform vec3 uFoot;
/** How much darker its edges are than its middle. */
uniform float uVignette;
uniform vec4 uTile;
vec3 backdropAt(vec2 place) {
  vec2 whole = uTile.xy + place * uTile.zw;
  float glow = 1.0 - uVignette * smoothstep(0.25, 0.95, length((whole - vec2(0.5, 0.52)) * vec2(1.15, 1.0)));
  return mix(uFoot, uTop, smoothstep(0.0, 1.0, whole.y)) * glow;
}
`;

export const backdropFragment = /* glsl */ `
precision highp float;
${backdropFunction}
${outputs}
in vec2 vPlace;
void main() {
  put(vec4(backdropAt(vPlace), 1.0));
}
`;

export const floorVertex = /* glsl */ `
precision highp float;
in vec3 position;
uniform mat4 modelMatrix;
uniform mat4 viewMatrix;
uniform mat4 projectionMatrix;
out vec3 vWorld;
out vec4 vClip;
void main() {
  vec4 world = modelMatrix * vec4(position, 1.0);
  vWorld = world.xyz;
  vClip = projectionMatrix * viewMatrix * world;
  gl_Position = vClip;
}
`;

/** The floor darkens where the model keeps light away. */
export const floorFunction = /* glsl */ `
uniform vec3 uCentre;
uniform float uReach;
/** Share of its light that the floor gets, of light on it: with shadows, without, and with the whole sky. */
vec3 floorShare(vec3 light, vec3 place) {
  vec3 sky = matteSky(uUp);
  vec3 free[3] = matteLight(Arriving(1.0, sky, sky, sky), uUp);
  float fade = smoothstep(0.22 * uReach, 0.62 * uReach, length(place - uCentre));
  return mix(light / max(plainLight(free).x, 1e-4), vec3(1.0), 0.12 + 0.88 * fade);
}
`;

/** The floor takes the colour of the backdrop behind it. */
export const floorFragment = /* glsl */ `
precision highp float;
precision highp sampler2D;
${outputs}
${backdropFunction}
in vec3 vWorld;
in vec4 vClip;
#ifdef SURFACES
${eye}
uniform vec3 uUp;
#else
${shadowLookup}
${floorFunction}
#endif
void main() {
  vec3 colour = backdropAt(vClip.xy / vClip.w * 0.5 + 0.5);
#ifdef SURFACES
  outColour = vec4(colour, 1.0);
  outLight = vec4(${FLOOR} * uUp, depthOf(vWorld));
#else
  vec3 light = plainLight(matteLight(arrivingAt(uUp, vWorld, uUp * uBias), uUp));
  put(vec4(colour * floorShare(light, vWorld).x, 1.0));
#endif
}
`;
