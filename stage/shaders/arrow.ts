import { common, hiding, shading, unlitInHaze } from './colour.ts';
import { copiesShader } from './copies.ts';
import { eye } from './eye.ts';
import { depthOutput } from './light.ts';
import { pictureHeight } from './picture-height.ts';

/** An arrow put where it belongs: turned along its vector, as long as that; see `arrow-shapes.ts`. */
const placing = /* glsl */ `
${copiesShader}
${pictureHeight}
/** The vectors at the vertices of the mark. */
uniform sampler2D uVectors;
/** Place and normal of every corner of the shape. */
uniform sampler2D uShape;
uniform int uCorners;
${eye}
uniform vec2 uPixels;
uniform float uWidth;
uniform float uThick;
/** Lengths are in heights of the picture. */
uniform bool uOnPicture;
/** 0 a body, 1 flat, 2 drawn with lines. */
uniform int uForm;
void placeArrow(int vertex, int corner, out vec3 place, out vec3 look) {
  vec3 base = placeOf(vertex).xyz;
  vec3 along = texelFetch(uVectors, entry(vertex), 0).xyz;
  vec3 position = texelFetch(uShape, entry(2 * corner), 0).xyz;
  vec3 normal = texelFetch(uShape, entry(2 * corner + 1), 0).xyz;
  float size = length(along);
  vec3 direction = along / max(size, 1e-30);
  float tall = pictureHeight(base);
  if (uOnPicture) size *= tall;
  vec3 toEye = towardsEye(base);
  vec3 across = cross(direction, toEye);
  // Looked at from its end an arrow has no sides: any direction will do.
  across = length(across) > 1e-4 ? normalize(across) : normalize(cross(direction, toEye.yzx + vec3(0.3, 0.2, 0.1)));
  vec3 third = cross(direction, across);
  if (uForm == 0) {
    place = base + size * (position.x * across + position.y * third + position.z * direction);
    look = normal.x * across + normal.y * third + normal.z * direction;
    return;
  }
  place = base + size * (position.x * across + position.z * direction);
  if (uForm == 2) {
    float wide = 0.5 * uWidth * uThick * tall * uTile.w / uPixels.y;
    place += wide * (normal.x * across + normal.z * direction);
  }
  look = toEye;
}
`;

export const arrowVertex = /* glsl */ `
precision highp float;
${placing}
out vec3 vPlace;
out vec3 vNormal;
flat out float vValue;
flat out float vKnown;
void main() {
  int arrow = gl_VertexID / uCorners;
  int vertex = pick(arrow);
  placeArrow(vertex, gl_VertexID - uCorners * arrow, vPlace, vNormal);
  valueOf(vertex, vValue, vKnown);
  gl_Position = projectionMatrix * (modelViewMatrix * vec4(vPlace, 1.0));
}
`;

export const arrowFragment = /* glsl */ `
${common}
${shading}
${unlitInHaze}
uniform int uAway;
uniform int uForm;
in vec3 vPlace;
in vec3 vNormal;
flat in float vValue;
flat in float vKnown;
void main() {
  if (uAway == 2 || isHidden(vValue, vKnown)) discard;
  vec4 own = ownColour(vValue, vKnown);
  float opacity = own.a * (uAway == 1 ? uOpacity * 0.13 : uOpacity);
  if (uForm == 2) {
    putInHaze(vec4(own.rgb, 1.0) * opacity, uColoured);
    return;
  }
  vec3 normal = normalize(vNormal);
  vec3 toEye = towardsEye(vPlace);
  if (dot(normal, toEye) < 0.0) normal = -normal;
  shade(own.rgb, opacity, normal, vPlace);
}
`;

/** Depth, as `throughTarget` keeps it. */
export const arrowCasterFragment = /* glsl */ `
precision highp float;
precision highp int;
precision highp sampler2D;
${depthOutput}
${hiding}
flat in float vValue;
flat in float vKnown;
void main() {
  if (isHidden(vValue, vKnown)) discard;
  outColour = keptDepth(gl_FragCoord.z);
}
`;
