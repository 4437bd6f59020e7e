import { colouring, outputs, shading } from './colour.ts';
import { copiesShader } from './copies.ts';
import { depthOutput } from './light.ts';
import { pictureHeight } from './picture-height.ts';

/**
 * Spheres as triangles that cover them, towards whoever looks: the camera or a light. What looks is known from its
 * matrices, so that one shader serves both.
 */
const viewer = /* glsl */ `
${pictureHeight}
bool parallelView() { return projectionMatrix[3][3] > 0.5; }
/** Of a mirrored world they may be slanted. */
vec3 viewBack() { return inverse(mat3(modelViewMatrix))[2]; }
/** Radii are in heights of the picture. */
uniform bool uOnPicture;
/** How much larger each is while not all of them are drawn. */
uniform float uGrown;
/** Of a sphere in the unit of places. */
float radiusAt(vec3 centre, float radius) {
  return uGrown * radius * (uOnPicture ? pictureHeight(centre) : 1.0);
}
vec3 viewEye() { return -(inverse(mat3(modelViewMatrix)) * modelViewMatrix[3].xyz); }
`;

export const sphereVertex = /* glsl */ `
precision highp float;
${copiesShader}
${colouring}
${viewer}
uniform int uAway;
/** Across the line of sight to the middle, where the circle in which the sphere is touched by lines of sight has radius one. */
out vec2 vAcross;
/** The same as a part of the normal. */
out vec3 vSide;
flat out vec3 vBack;
flat out vec3 vCentre;
/** It has one all over, and the opacity. */
flat out vec4 vColour;
/** The radius, and its share of the way to the middle. */
flat out vec2 vRadius;
/** Of a triangle around the circle. */
const vec2 CORNERS[3] = vec2[3](vec2(-1.7320509, -1.0), vec2(1.7320509, -1.0), vec2(0.0, 2.0));
void main() {
  int sphere = gl_VertexID / 3;
  vAcross = CORNERS[gl_VertexID - 3 * sphere];
  int vertex = pick(sphere);
  vec4 sized = placeOf(vertex);
  vCentre = sized.xyz;
  float radius = radiusAt(vCentre, sized.w);
  vBack = normalize(viewBack());
  float near = 0.0;
  if (!parallelView()) {
    vec3 way = viewEye() - vCentre;
    float far = max(length(way), 1.001 * radius);
    vBack = way / far;
    near = radius / far;
  }
  vRadius = vec2(radius, near);
  vec3 right = normalize(cross(abs(vBack.z) < 0.9 ? vec3(0.0, 0.0, 1.0) : vec3(1.0, 0.0, 0.0), vBack));
  // The circle of touch lies nearer than the middle: seen there it is larger.
  vSide = (vAcross.x * right + vAcross.y * cross(vBack, right)) / sqrt(1.0 - near * near);
  float value;
  float known;
  valueOf(vertex, value, known);
  vColour = ownColour(value, known);
  bool gone = uAway == 2 || isHidden(value, known);
  gl_Position = gone
    ? vec4(2.0, 2.0, 2.0, 1.0)
    : projectionMatrix * (modelViewMatrix * vec4(vCentre + radius * vSide, 1.0));
}
`;

/**
 * Where a line of sight meets a sphere, by how far across it passes: with a = radius / distance of the middle and r the
 * way across in radii of the circle of touch, (1 - a s) / (1 + a^2 r^2 / (1 - a^2)) of the way to the plane of the middle,
 * s = sqrt(1 - r^2): the smaller root of the square equation of line and sphere.
 */
const meet = /* glsl */ `
in vec2 vAcross;
in vec3 vSide;
flat in vec3 vBack;
flat in vec3 vCentre;
flat in vec2 vRadius;
/** The normal there; r is smaller than one. */
vec3 meetSphere(float r2) {
  float s = sqrt(1.0 - r2);
  float near = vRadius.y;
  float bulge = near * r2 / (1.0 - near * near);
  float slant = 1.0 / (1.0 + near * bulge);
  vec3 normal = slant * ((1.0 - near * s) * vSide + (bulge + s) * vBack);
  vec4 clip = projectionMatrix * (modelViewMatrix * vec4(vCentre + vRadius.x * normal, 1.0));
  gl_FragDepth = clamp(0.5 + 0.5 * clip.z / clip.w, 0.0, 1.0);
  return normal;
}
`;

export const sphereFragment = /* glsl */ `
precision highp float;
precision highp int;
precision highp sampler2D;
#define OWN_DEPTH gl_FragDepth
${outputs}
${shading}
${viewer}
${meet}
uniform float uOpacity;
uniform int uAway;
flat in vec4 vColour;
void main() {
  float r2 = dot(vAcross, vAcross);
  if (r2 < 1.0) {
    vec3 normal = meetSphere(r2);
    float opacity = vColour.a * (uAway == 1 ? uOpacity * 0.13 : uOpacity);
    shade(vColour.rgb, opacity, normal, vCentre + vRadius.x * normal);
  } else discard;
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
void main() {
  float r2 = dot(vAcross, vAcross);
  if (r2 >= 1.0) discard;
  meetSphere(r2);
  outColour = keptDepth(gl_FragDepth);
}
`;
