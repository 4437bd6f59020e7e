import { scaleShader } from '#core/colour/compiled-scale.ts';

/**
 * What every drawing on the stage writes: its colour, and beside it its light, which is smoothed alone (see clean.ts).
 * Of the light: with shadows, the share of the pixel that is covered by what takes none, without shadows, and the
 * same with the whole sky, to which that share is added (blending asks for it).
 */
export const outputs = /* glsl */ `
layout(location = 0) out vec4 outColour;
layout(location = 1) out vec4 outLight;

/** Something that is not lit, or seen through; premultiplied. */
void put(vec4 colour) {
  outColour = colour;
  outLight = vec4(0.0, colour.a, 0.0, colour.a);
}

/** @param light with shadows, what it would be without, and with the whole sky */
void putLit(vec3 colour, vec3 light) {
  outColour = vec4(colour * light.x, 1.0);
  outLight = vec4(light.x, 0.0, light.y, light.z);
}

/** A lit surface, opaque or not. */
void putShaded(vec3 colour, float opacity, vec3 light) {
  if (opacity < 1.0) put(vec4(colour * light.x, 1.0) * opacity);
  else putLit(colour, light);
}
`;

/** Colour of a value, light of a point; shared by surfaces, lines and dots. */
export const common = /* glsl */ `
precision highp float;
precision highp int;
precision highp sampler2D;

${outputs}
${scaleShader}
uniform bool uHasField;
uniform vec3 uPlain;
uniform vec3 uMissing;
uniform float uOpacity;

vec3 toLinear(vec3 c) {
  return mix(c / 12.92, pow((c + 0.055) / 1.055, vec3(2.4)), step(0.04045, c));
}

vec3 ownColour(float value, float known) {
  if (!uHasField) return uPlain;
  return known > 0.999 ? scaleColour(value) : uMissing;
}
`;
