import { TABLE_SIZE } from './compiled-scale.ts';

/**
 * The only piece of shader that knows scales. `scaleColour(value)` gives the linear colour and the opacity of a value,
 * `scaleKnows` whether it has a place on the scale, `scaleHides` whether it is not shown at all. Its uniforms are
 * `uTable` (a texture of `table`), `uLow` and `uHigh` (the ends as lengths along the scale), `uSpacing` (0 linear, 1 log,
 * 2 through zero) with `uLinear`, `uBands` (0 for a continuous scale), `uBelow` and `uAbove` (colours beyond the range,
 * where their last number is 1), `uEnds` (the range itself) and `uShown` (what is shown).
 */
export const scaleShader = /* glsl */ `
uniform sampler2D uTable;
uniform float uLow;
uniform float uHigh;
uniform int uSpacing;
uniform float uLinear;
uniform int uBands;
uniform vec4 uBelow;
uniform vec4 uAbove;
uniform vec2 uEnds;
uniform vec2 uShown;

/** Position along the scale, 0..1. */
float scaleFraction(float value) {
  float width = uHigh - uLow;
  float at = value;
  if (uSpacing == 1) at = log(max(value, 1e-38));
  else if (uSpacing == 2) at = sign(value) * log(1.0 + abs(value) / uLinear);
  return width > 0.0 ? clamp((at - uLow) / width, 0.0, 1.0) : 0.5;
}

bool scaleKnows(float value) {
  return uSpacing != 1 || value > 0.0;
}

bool scaleHides(float value) {
  return value < uShown.x || value > uShown.y;
}

/** The last of so many sorted numbers of a row of the table that a value is not below; by halving, in eight steps. */
int scaleAt(float value, int count, int row) {
  int found = 0;
  for (int stride = 128; stride > 0; stride /= 2)
    if (found + stride < count && value >= texelFetch(uTable, ivec2(found + stride, row), 0).r) found += stride;
  return found;
}

vec4 scaleColour(float value) {
  if (uBelow.a > 0.0 && value < uEnds.x) return uBelow;
  if (uAbove.a > 0.0 && value > uEnds.y) return uAbove;
  if (uBands > 0) return texelFetch(uTable, ivec2(scaleAt(value, uBands, 1), 0), 0);
  float at = scaleFraction(value) * ${TABLE_SIZE - 1}.0;
  float i = min(floor(at), ${TABLE_SIZE - 2}.0);
  vec4 a = texelFetch(uTable, ivec2(int(i), 0), 0);
  vec4 b = texelFetch(uTable, ivec2(int(i) + 1, 0), 0);
  return mix(a, b, at - i);
}
`;

/**
 * Lines where levels lie: `onLevel(value, width)` tells whether a pixel lies on one, so many pixels wide. Its uniform is
 * `uLevels`, how many there are in the third row of the table.
 */
export const levelShader = /* glsl */ `
uniform int uLevels;
bool onLevel(float value, float width) {
  float change = fwidth(value);
  if (uLevels == 0 || change <= 0.0) return false;
  int at = scaleAt(value, uLevels, 2);
  float near = abs(value - texelFetch(uTable, ivec2(at, 2), 0).r);
  if (at + 1 < uLevels) near = min(near, abs(value - texelFetch(uTable, ivec2(at + 1, 2), 0).r));
  return near < 0.5 * width * change;
}
`;
