import { levelShader, scaleShader } from '#core/colour/scale-shader.ts';
import { eye } from './eye.ts';
import { COLOURED, finishing } from './finish.ts';
import { haze } from './haze.ts';
import { shadowLookup } from './light.ts';
import { peel } from './peel.ts';

/** The length of the normal that stands for the floor, and of the first body; each further one has one more. */
export const FLOOR = 1;
export const FIRST_BODY = 2;
/** The same of what takes no light but has the colour of a value. */
const VALUE_LENGTH = '0.25';

/**
 * What every drawing on the stage writes. Its colour, premultiplied; beside it its light, which is smoothed alone (see
 * clean.ts): with shadows, the share of the pixel that is covered by what takes none, without shadows, and with the whole
 * sky; and what is there of light as it meets a camera, with the share of the pixel it covers.
 *
 * In pictures of passes the last number of each is what blending leaves of it where something is seen through: of the
 * colour the share of the pixel that is still free. See `blend`.
 *
 * With SURFACES, as opaque things are drawn in passes, there is no light yet, but what it is found from (see lit.ts):
 * the colour with the number of its finish and whether it is that of a value, the normal, whose length tells the body it
 * belongs to, and is next to nothing where no light is taken; and how far away it is along the axis, below zero where that is
 * all the same. With PEELED that is a layer of what is seen through, and there is its opacity too.
 */
export const outputs = /* glsl */ `
#ifndef OUTPUTS
#define OUTPUTS
layout(location = 0) out vec4 outColour;
layout(location = 1) out vec4 outLight;
#ifndef SURFACES
layout(location = 2) out vec4 outScene;
#elif defined(PEELED)
layout(location = 2) out vec4 outOpacity;
#endif

/** Something that is not lit, or seen through; premultiplied. */
void put(vec4 colour) {
  outColour = colour;
#ifdef SURFACES
  outLight = vec4(0.0, 0.0, 0.0, -1.0);
#else
  outLight = vec4(0.0, colour.a, 0.0, colour.a);
  outScene = vec4(0.0, 0.0, 0.0, colour.a);
#endif
}
${peel}
#endif
`;

/** Something that is not lit but lies in the haze. */
export const unlitInHaze = /* glsl */ `
${haze}
void putInHaze(vec4 colour, bool value) {
  keepToLayer(colour.a);
#ifdef SURFACES
  outColour = colour;
  outLight = vec4(value ? ${VALUE_LENGTH} : 0.0, 0.0, 0.0, drawnDistance());
#else
  put(hazed(colour, drawnDistance(), value));
#endif
}
`;

/** How the number of a finish is kept with a colour, and whether that is of a value. */
export const keptFinish = /* glsl */ `
float kept(int finish, bool coloured) { return 1.0 + float(finish) + (coloured ? ${COLOURED}.0 : 0.0); }
int finishOf(float kept, out bool coloured) {
  int finish = int(kept - 0.5);
  coloured = finish >= ${COLOURED};
  return coloured ? finish - ${COLOURED} : finish;
}
`;

/** A surface that takes light, opaque or not, in its finish. */
export const shading = /* glsl */ `
${keptFinish}
${eye}
${haze}
/** The number of its finish; and whether its colours are those of values. */
uniform int uFinish;
uniform bool uColoured;
uniform bool uEven;
/** Its number among the bodies. */
uniform float uBody;
/** A colour for what turns its edge to whoever looks, and how strong it is; colours of values stay without. */
uniform vec4 uEdgeTint;
float edgeTint(vec3 normal, vec3 place) {
  return uColoured ? 0.0 : uEdgeTint.a * pow(1.0 - abs(dot(normal, towardsEye(place))), 3.0);
}
#ifndef SURFACES
void putLit(vec4 colour, vec3 place, bool coloured) {
  put(hazed(colour, depthOf(place), coloured));
}
${shadowLookup}
uniform float uShift;
#ifdef FINISHED
${finishing}
void shadeLit(int finish, bool coloured, vec3 colour, float opacity, vec3 normal, vec3 place) {
  vec3 toEye = towardsEye(place);
  Worn worn = wornAt(finish, coloured, colour, normal, place);
  Arriving a = arrivingAt(worn.normal, place, normal * uShift);
  mat3 matte = matteLight(a, worn.normal);
  vec3 shares;
  float hides;
  vec3 light = sentBy(worn, coloured, a, matte, toEye, shares, hides);
  // What a clear body reflects hides what is behind it; the rest of it as far as it is opaque.
  bool clear = worn.finish.clear > 0.0 && !coloured;
  float covered = clear ? mix(opacity, 1.0, hides) : opacity;
  // What wears no finish looks as it does where nothing wears one.
  if (finish == 0) light = colour * plainLight(matte).x;
  else if (!coloured) light = toned(light, clear ? max(covered, 1e-3) : 1.0);
  putLit(vec4(light * (clear ? 1.0 : opacity), covered), place, coloured);
}
#else
void shadeLit(int finish, bool coloured, vec3 colour, float opacity, vec3 normal, vec3 place) {
  vec3 light = plainLight(matteLight(arrivingAt(normal, place, normal * uShift), normal));
  putLit(vec4(colour * light.x, 1.0) * opacity, place, coloured);
}
#endif
void putShaded(int finish, bool coloured, vec3 colour, float opacity, vec3 normal, vec3 place) {
  if (uEven) putLit(vec4(colour, 1.0) * opacity, place, coloured);
  else shadeLit(finish, coloured, colour, opacity, normal, place);
}
#endif
void shade(vec3 colour, float opacity, vec3 normal, vec3 place) {
  float tint = edgeTint(normal, place);
  colour = mix(colour, uEdgeTint.rgb, tint);
  // What is seen through is less so where it is tinted.
  opacity = mix(opacity, 1.0, tint);
  keepToLayer(opacity);
#ifdef SURFACES
  outColour = vec4(colour, kept(uFinish, uColoured));
  outLight = vec4((${FIRST_BODY}.0 + uBody) * normal, depthOf(place));
#else
  putShaded(uFinish, uColoured, colour, opacity, normal, place);
#endif
}
`;

/** What a scale says and what it hides. */
export const hiding = /* glsl */ `
${scaleShader}
uniform bool uHasField;
/** With no opacity, what has no value is hidden. */
uniform vec4 uMissing;

/** Whether something of a value is not shown at all. */
bool isHidden(float value, float known) {
  if (!uHasField) return false;
  return known > 0.999 && scaleKnows(value) ? scaleHides(value) : uMissing.a == 0.0;
}
`;

/** Colour of a value. */
export const colouring = /* glsl */ `
${hiding}
/** One colour in place of the scale's; what the scale hides stays hidden. */
uniform bool uOneColour;
uniform vec3 uPlain;

vec3 toLinear(vec3 c) {
  return mix(c / 12.92, pow((c + 0.055) / 1.055, vec3(2.4)), step(0.04045, c));
}

/** Colour and opacity of what is not hidden. */
vec4 ownColour(float value, float known) {
  if (!uHasField || uOneColour) return vec4(uPlain, 1.0);
  return known > 0.999 && scaleKnows(value) ? scaleColour(value) : uMissing;
}
`;

/** What the drawings of surfaces, lines and dots share. */
export const common = /* glsl */ `
precision highp float;
precision highp int;
precision highp sampler2D;

${outputs}
${colouring}
uniform float uOpacity;
`;

/** Lines where the levels of the scale lie on a surface. */
export const levelLines = /* glsl */ `
${levelShader}
uniform vec3 uLevelColour;
uniform float uLevelWidth;
uniform float uWidth;
vec3 withLevels(vec3 colour, float value, float known) {
  bool drawn = uHasField && known > 0.999 && onLevel(value, uWidth * uLevelWidth);
  return drawn ? uLevelColour : colour;
}
`;
