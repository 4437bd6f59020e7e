import { common } from './colour.ts';

/** Lines as quads of a width in pixels, pulled a little towards the eye so that they lie on their surface. */
export const lineVertex = /* glsl */ `
precision highp float;
in vec2 corner;
in vec3 from;
in vec3 to;
in float fromValue;
in float toValue;
in float fromKnown;
in float toKnown;
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
uniform vec2 uPixels;
uniform float uWidth;
uniform float uThick;
uniform float uPull;
uniform float uNumberPull;
uniform bool uParallel;
out float vValue;
out float vKnown;
void main() {
  vec4 a = projectionMatrix * modelViewMatrix * vec4(from, 1.0);
  vec4 b = projectionMatrix * modelViewMatrix * vec4(to, 1.0);
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
  vValue = mix(fromValue, toValue, corner.x);
  vKnown = mix(fromKnown, toKnown, corner.x);
}
`;

export const lineFragment = /* glsl */ `
${common}
uniform int uAway;
in float vValue;
in float vKnown;
void main() {
  if (uAway > 0 || isHidden(vValue, vKnown)) discard;
  vec4 own = ownColour(vValue, vKnown);
  put(vec4(own.rgb, 1.0) * own.a * uOpacity);
}
`;
