import { aroundFunction } from './around.ts';
import { tile } from './tile.ts';
import { toneFunction } from './tone.ts';

/** The backdrop: a soft fall of light from the top of the whole picture to its foot, whatever tile is drawn. */
export const backdropFunction = /* glsl */ `
#ifndef BACKDROP
#define BACKDROP
uniform vec3 uTop;
uniform vec3 uFoot;
/** How much darker its edges are than its middle. */
uniform float uVignette;
${tile}
/** What is shown in place of colours: nothing, a picture from edge to edge, or what shines around. */
uniform int uShows;
uniform sampler2D uBehind;
/** Times as bright as it is. */
uniform float uBehindLight;
/** The share of the picture that is seen. */
uniform vec2 uCover;
/** Where a place of the whole picture, -1 to 1, looks to. */
uniform vec3 uLookRight;
uniform vec3 uLookUp;
uniform vec3 uLookAhead;
${toneFunction}
${aroundFunction}
vec3 shownAt(vec2 whole) {
  if (uShows == 1) return uBehindLight * textureLod(uBehind, vec2(0.5, 0.5) + (whole - 0.5) * uCover * vec2(1.0, -1.0), 0.0).rgb;
  vec2 aside = 2.0 * whole - 1.0;
  vec3 look = normalize(aside.x * uLookRight + aside.y * uLookUp + uLookAhead);
  return toned(uBehindLight * textureLod(uBehind, surroundingsAt(look), 0.0).rgb);
}
vec3 backdropAt(vec2 place) {
  vec2 whole = uTile.xy + place * uTile.zw;
  if (uShows > 0) return shownAt(whole);
  float glow = 1.0 - uVignette * smoothstep(0.25, 0.95, length((whole - vec2(0.5, 0.52)) * vec2(1.15, 1.0)));
  return mix(uFoot, uTop, smoothstep(0.0, 1.0, whole.y)) * glow;
}
#endif
`;
