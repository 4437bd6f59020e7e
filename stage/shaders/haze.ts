import { backdropFunction } from './backdrop-colour.ts';
import { eye } from './eye.ts';

/** Air that is not clear: with the distance things fade into the backdrop behind them; see `hazeRate`. Once in a shader put together of several parts. */
export const haze = /* glsl */ `
#ifndef HAZE
#define HAZE
${eye}
${backdropFunction}
/** From which distance in front of the camera on, and the rate of what is left with every unit of it; no more than 0. */
uniform vec2 uHaze;
uniform bool uHazeSparesValues;
/** In a parallel view: the distance of what has no depth, and of what has all of it beyond that. */
uniform vec2 uDepths;
uniform vec2 uPixels;
uniform bool uTransparent;

/** How far away what is drawn lies, along the axis. */
float drawnDistance() {
  return uParallel ? uDepths.x + uDepths.y * gl_FragCoord.z : 1.0 / gl_FragCoord.w;
}
/** Share of the light from so far away that is lost; 'value' where its colour is that of a value. */
float hazeAt(float distance, bool value) {
  if (uHaze.y == 0.0 || (value && uHazeSparesValues)) return 0.0;
  return 1.0 - exp(uHaze.y * max(0.0, distance - uHaze.x));
}
/** What takes its place. */
vec3 hazeColour() {
  return uTransparent ? vec3(0.0) : backdropAt(gl_FragCoord.xy / uPixels);
}
vec4 hazed(vec4 colour, float distance, bool value) {
  float lost = hazeAt(distance, value);
  if (lost == 0.0) return colour;
  float left = uTransparent ? 1.0 - lost : 1.0;
  return vec4(mix(colour.rgb, colour.a * hazeColour(), lost), colour.a * left);
}
#endif
`;
