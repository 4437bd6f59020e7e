import { common, hiding, levelLines, shading } from './colour.ts';
import { eye } from './eye.ts';
import { depthOutput } from './light.ts';

export const surfaceVertex = /* glsl */ `
precision highp float;
in vec3 position;
in vec3 normal;
in float value;
in float known;
in float shade;
in vec2 uv;
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
uniform float uNumberPull;
out vec2 vUv;
out vec3 vPlace;
out vec3 vNormal;
out float vValue;
out float vKnown;
out float vShade;
void main() {
  vShade = shade;
  vPlace = position;
  vUv = uv;
  vNormal = normal;
  vec4 seen = modelViewMatrix * vec4(position, 1.0);
  vValue = value;
  vKnown = known;
  gl_Position = projectionMatrix * seen;
  gl_Position.z -= uNumberPull * gl_Position.w;
}
`;

export const surfaceFragment = /* glsl */ `
${common}
${levelLines}
${shading}
uniform bool uInside;
/** Only where nothing opaque is seen, and its front alone. */
uniform bool uClear;
uniform sampler2D uBefore;
uniform bool uHasPicture;
uniform sampler2D uPicture;
/** Whether the picture lies on a body and takes its light. */
uniform bool uPictureLit;
uniform int uAway;
in vec2 vUv;
in vec3 vPlace;
in vec3 vNormal;
in float vValue;
in float vKnown;
in float vShade;
uniform bool uShaded;
void main() {
  vec3 normal = normalize(vNormal);
  vec3 toEye = towardsEye(vPlace);
  float facing = dot(normal, toEye);
  if (uInside && facing > 0.0) discard;
  if (uClear && (facing < 0.0 || texelFetch(uBefore, ivec2(gl_FragCoord.xy), 0).r < 1.0)) discard;
  if (uAway == 2 || isHidden(vValue, vKnown)) discard;
  if (uHasPicture && !uPictureLit) {
    // A picture shows its own colours, whatever the light.
    vec4 seen = texture(uPicture, vUv);
    keepToLayer(seen.a * uOpacity);
    put(vec4(toLinear(seen.rgb), 1.0) * seen.a * uOpacity);
    return;
  }
  vec4 own = ownColour(vValue, vKnown);
  // Streaks darken, they do not colour.
  vec3 colour = withLevels(own.rgb, vValue, vKnown) * (uShaded ? vShade : 1.0);
  if (uHasPicture) {
    vec4 seen = texture(uPicture, vUv);
    if (seen.a < 0.5) discard;
    colour *= toLinear(seen.rgb);
  }
  float opacity = own.a * (uAway == 1 ? uOpacity * 0.13 : uOpacity);
  if (facing < 0.0) normal = -normal;
  shade(colour, opacity, normal, vPlace);
}
`;

/** Only where it is; and which side of it the camera sees. */
export const casterVertex = /* glsl */ `
precision highp float;
in vec3 position;
in vec3 normal;
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
${eye}
out float vFront;
#ifdef HIDES
in float value;
in float known;
out float vValue;
out float vKnown;
#endif
void main() {
#ifdef HIDES
  vValue = value;
  vKnown = known;
#endif
  vFront = dot(normal, uParallel ? uTowards : uEye - position);
  gl_Position = projectionMatrix * (modelViewMatrix * vec4(position, 1.0));
}
`;

/**
 * Depth, as `throughTarget` keeps it. What is cut open for the camera does not keep the light out either; nor, with HIDES,
 * what the scale hides.
 */
export const casterFragment = /* glsl */ `
precision highp float;
precision highp int;
precision highp sampler2D;
uniform bool uInside;
in float vFront;
${depthOutput}
#ifdef HIDES
${hiding}
in float vValue;
in float vKnown;
#endif
void main() {
#ifdef HIDES
  if (isHidden(vValue, vKnown)) discard;
#endif
  if (uInside && vFront > 0.0) discard;
  outColour = keptDepth(gl_FragCoord.z);
}
`;
