import { common, hiding, shading } from './colour.ts';
import { depthOutput } from './light.ts';
import { pictureHeight } from './picture-height.ts';

/**
 * Spheres as squares that cover them, towards whoever looks: the camera or a light. What looks is known from its
 * matrices, so that one shader serves both.
 */
const viewer = /* glsl */ `
${pictureHeight}
bool parallelView() { return projectionMatrix[3][3] > 0.5; }
vec3 viewBack() { return vec3(modelViewMatrix[0][2], modelViewMatrix[1][2], modelViewMatrix[2][2]); }
/** Radii are in heights of the picture. */
uniform bool uOnPicture;
/** How much larger each is while not all of them are drawn. */
uniform float uGrown;
/** Of a sphere in the unit of places. */
float radiusAt(vec3 centre, float radius) {
  return uGrown * radius * (uOnPicture ? pictureHeight(centre) : 1.0);
}
vec3 viewEye() { return -(transpose(mat3(modelViewMatrix)) * modelViewMatrix[3].xyz); }
`;

export const sphereVertex = /* glsl */ `
precision highp float;
in vec2 corner;
in vec3 centre;
in float value;
in float known;
in float radius;
${viewer}
out vec3 vPlace;
flat out vec3 vCentre;
flat out float vValue;
flat out float vKnown;
flat out float vRadius;
void main() {
  float own = radiusAt(centre, radius);
  vRadius = own;
  vec3 back = viewBack();
  float cover = own;
  if (!parallelView()) {
    vec3 way = viewEye() - centre;
    float far = max(length(way), 1.001 * own);
    back = way / far;
    // The circle where lines of sight touch the sphere lies nearer than its middle.
    cover *= min(20.0, far / sqrt(far * far - own * own));
  }
  vec3 right = normalize(cross(abs(back.z) < 0.9 ? vec3(0.0, 0.0, 1.0) : vec3(1.0, 0.0, 0.0), back));
  vPlace = centre + cover * (corner.x * right + corner.y * cross(back, right));
  vCentre = centre;
  vValue = value;
  vKnown = known;
  gl_Position = projectionMatrix * (modelViewMatrix * vec4(vPlace, 1.0));
}
`;

/** Where the line of sight meets the sphere; what misses it is not drawn. */
const meet = /* glsl */ `
flat in float vRadius;
in vec3 vPlace;
flat in vec3 vCentre;
vec3 meetSphere() {
  vec3 along = parallelView() ? -viewBack() : normalize(vPlace - viewEye());
  vec3 from = vPlace - vCentre;
  float b = dot(from, along);
  float inside = b * b - dot(from, from) + vRadius * vRadius;
  if (inside < 0.0) discard;
  vec3 place = vPlace + (-b - sqrt(inside)) * along;
  vec4 seen = projectionMatrix * (modelViewMatrix * vec4(place, 1.0));
  gl_FragDepth = clamp(0.5 + 0.5 * seen.z / seen.w, 0.0, 1.0);
  return place;
}
`;

export const sphereFragment = /* glsl */ `
${common}
${shading}
${viewer}
${meet}
uniform bool uEven;
uniform int uAway;
flat in float vValue;
flat in float vKnown;
void main() {
  if (uAway == 2 || isHidden(vValue, vKnown)) discard;
  vec3 place = meetSphere();
  vec4 own = ownColour(vValue, vKnown);
  vec3 colour = own.rgb;
  float opacity = own.a * (uAway == 1 ? uOpacity * 0.13 : uOpacity);
  if (uEven) {
    put(vec4(colour, 1.0) * opacity);
    return;
  }
  shade(colour, opacity, (place - vCentre) / vRadius, place);
}
`;

/** Depth, as `throughTarget` keeps it. What the scale hides casts no shadow. */
export const sphereCasterFragment = /* glsl */ `
precision highp float;
precision highp int;
precision highp sampler2D;
${depthOutput}
${viewer}
${meet}
${hiding}
flat in float vValue;
flat in float vKnown;
void main() {
  if (isHidden(vValue, vKnown)) discard;
  meetSphere();
  outColour = keptDepth(gl_FragDepth);
}
`;
