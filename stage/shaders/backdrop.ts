import { outputs } from './colour.ts';

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
