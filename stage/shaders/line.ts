import { common, unlitInHaze } from './colour.ts';
import { copiesShader } from './copies.ts';
import { eye } from './eye.ts';

/** Lines as quads of a width in pixels, pulled a little towards the eye so that they lie on their surface. */
export const lineVertex = /* glsl */ `
precision highp float;
${copiesShader}
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
uniform vec2 uPixels;
uniform float uWidth;
uniform float uThick;
uniform float uPull;
uniform float uNumberPull;
${eye}
out float vValue;
out float vKnown;
/** Corners of the two triangles: at which end, and on which side. */
const vec2 CORNERS[6] = vec2[6](
  vec2(0.0, -1.0), vec2(1.0, 1.0), vec2(0.0, 1.0),
  vec2(0.0, -1.0), vec2(1.0, -1.0), vec2(1.0, 1.0)
);
void main() {
  int segment = gl_VertexID / 6;
  vec2 corner = CORNERS[gl_VertexID - 6 * segment];
  int from = pick(2 * segment);
  int to = pick(2 * segment + 1);
  vec4 a = projectionMatrix * (modelViewMatrix * vec4(placeOf(from).xyz, 1.0));
  vec4 b = projectionMatrix * (modelViewMatrix * vec4(placeOf(to).xyz, 1.0));
  vec2 direction = (b.xy / b.w - a.xy / a.w) * uPixels;
  float size = length(direction);
  direction = size > 1e-6 ? direction / size : vec2(1.0, 0.0);
  vec2 across = vec2(-direction.y, direction.x);
  vec4 here = corner.x < 0.5 ? a : b;
  vec2 offset = (across * corner.y * 0.5 + direction * (corner.x * 2.0 - 1.0) * 0.35) * uWidth * uThick;
  here.xy += 2.0 * offset / uPixels * here.w;
  // In parallel projection the same depth is a smaller part of the range.
  here.z -= (uParallel ? 8.0 : 1.0) * (uPull + uNumberPull) * here.w;
  gl_Position = here;
  valueOf(corner.x < 0.5 ? from : to, vValue, vKnown);
}
`;

export const lineFragment = /* glsl */ `
${common}
${unlitInHaze}
uniform int uAway;
in float vValue;
in float vKnown;
void main() {
  if (uAway > 0 || isHidden(vValue, vKnown)) discard;
  vec4 own = ownColour(vValue, vKnown);
  putInHaze(vec4(own.rgb, 1.0) * own.a * uOpacity, uHasField && !uOneColour);
}
`;
