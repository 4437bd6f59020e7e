import { FLOOR, outputs } from './colour.ts';
import { shadowLookup } from './light.ts';

/** The backdrop: a soft fall of light from the top of the whole picture to its foot, whatever tile is drawn. */
export const backdropFunction = /* glsl */ `
uniform vec3 uTop;
uniform vec3 uFoot;
uniform vec4 uTile;
vec3 backdropAt(vec2 place) {
  vec2 whole = uTile.xy + place * uTile.zw;
  float glow = 1.0 - 0.10 * smoothstep(0.25, 0.95, length((whole - vec2(0.5, 0.52)) * vec2(1.15, 1.0)));
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
uniform bool uTransparent;
void putFloor(vec3 colour, vec3 place) {
  float free = uKeyStrength * max(0.0, dot(uUp, uKeyDirection)) + uSkyStrength;
  float fade = smoothstep(0.22 * uReach, 0.62 * uReach, length(place - uCentre));
  vec3 share = mix(lightOn(uUp, place, uUp * uBias) / free, vec3(1.0), 0.12 + 0.88 * fade);
  putLit(colour, share);
  // Without a backdrop there is only the shadow.
  if (uTransparent) outColour = vec4(0.0, 0.0, 0.0, 1.0 - share.x);
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
uniform vec3 uEye;
uniform vec3 uTowards;
uniform vec3 uUp;
#else
${shadowLookup}
${floorFunction}
#endif
void main() {
  vec3 colour = backdropAt(vClip.xy / vClip.w * 0.5 + 0.5);
#ifdef SURFACES
  outColour = vec4(colour, 1.0);
  outLight = vec4(${FLOOR} * uUp, dot(uEye - vWorld, uTowards));
#else
  putFloor(colour, vWorld);
#endif
}
`;
