import { toneFunction } from './tone.ts';

/**
 * Light without the grain of few passes. How much of its light a point gets is one number a pixel, kept apart from
 * its colour; that number alone is smoothed along surfaces, in steps of growing reach (edge-avoiding à-trous wavelets,
 * Dammertz 2010), and what is found multiplies the picture. Colours stay what they are.
 */
const head = /* glsl */ `
precision highp float;
precision highp int;
precision highp sampler2D;
/** Change of depth that is one pixel wide, as a linear function of the depth. */
uniform vec2 uUnit;
out vec4 outColour;
/** Added to the share of light where surfaces meet; and what stands where nothing is lit. */
const float EDGE = 10.0;
const float NONE = -100.0;
float unitAt(float depth) {
  return abs(uUnit.x * depth + uUnit.y);
}
`;

/** Depth, slope of the surface on screen, and whether one surface goes on to all sides. */
export const shapeFragment = /* glsl */ `
${head}
uniform sampler2D uDepth;
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  ivec2 middle = clamp(at, ivec2(1), textureSize(uDepth, 0) - 2);
  float z = texelFetch(uDepth, at, 0).r;
  float m = texelFetch(uDepth, middle, 0).r;
  float left = texelFetch(uDepth, middle - ivec2(1, 0), 0).r;
  float right = texelFetch(uDepth, middle + ivec2(1, 0), 0).r;
  float below = texelFetch(uDepth, middle - ivec2(0, 1), 0).r;
  float above = texelFetch(uDepth, middle + ivec2(0, 1), 0).r;
  float a = texelFetch(uDepth, middle - ivec2(1, 1), 0).r;
  float b = texelFetch(uDepth, middle + ivec2(1, 1), 0).r;
  float c = texelFetch(uDepth, middle + ivec2(-1, 1), 0).r;
  float d = texelFetch(uDepth, middle + ivec2(1, -1), 0).r;
  vec2 slope = 0.5 * vec2(right - left, above - below);
  float bent = max(max(abs(left + right - 2.0 * m), abs(below + above - 2.0 * m)), max(abs(a + b - 2.0 * m), abs(c + d - 2.0 * m)));
  bool even = bent < 0.5 * unitAt(m) + 0.1 * (abs(slope.x) + abs(slope.y));
  outColour = vec4(z, slope, even ? 1.0 : 0.0);
}
`;

/** Share of the light that arrives (below zero where it cannot be told), depth, and slope of the surface on screen. */
export const gatherFragment = /* glsl */ `
${head}
uniform sampler2D uLight;
uniform sampler2D uShape;
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  vec4 light = texelFetch(uLight, at, 0);
  vec4 shape = texelFetch(uShape, at, 0);
  bool lit = light.g < 0.6 && light.b > 1e-4;
  float share = light.r / max(light.b, 1e-4);
  outColour = vec4(!lit ? NONE : shape.a > 0.5 ? share : share - EDGE, shape.rgb);
}
`;

/** One smoothing step over neighbours so many pixels away that lie on the same surface. */
export const smoothFragment = /* glsl */ `
${head}
uniform sampler2D uNew;
uniform int uStep;
uniform float uTolerance;
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  vec4 own = texelFetch(uNew, at, 0);
  outColour = own;
  bool edge = own.r < 0.0;
  if (own.r == NONE || (edge && uStep > 2)) return;
  float share = edge ? own.r + EDGE : own.r;
  ivec2 last = textureSize(uNew, 0) - 1;
  float steep = abs(own.z) + abs(own.w);
  float unit = unitAt(own.y);
  // Where surfaces meet, depths tell nothing; only like shares of light are mixed there.
  float off = edge ? 0.0 : 1.0 / ((0.6 * unit + 0.1 * steep) * float(uStep));
  float turned = edge ? 0.0 : 1.0 / (0.4 * unit + 0.3 * steep);
  float sum = share * 0.25;
  float weights = 0.25;
  for (int y = -1; y <= 1; y++)
    for (int x = -1; x <= 1; x++) {
      if (x == 0 && y == 0) continue;
      ivec2 aside = uStep * ivec2(x, y);
      vec4 other = texelFetch(uNew, clamp(at + aside, ivec2(0), last), 0);
      bool otherEdge = other.r < 0.0;
      float found = otherEdge ? other.r + EDGE : other.r;
      float apart = abs(found - share) / uTolerance;
      apart += abs(other.y - own.y - dot(own.zw, vec2(aside))) * off;
      apart += (abs(other.z - own.z) + abs(other.w - own.w)) * turned;
      bool same = other.r != NONE && (edge || !otherEdge);
      float weight = same ? (x == 0 || y == 0 ? 0.125 : 0.0625) * exp(-apart) : 0.0;
      sum += weight * found;
      weights += weight;
    }
  outColour.r = sum / weights - (edge ? EDGE : 0.0);
}
`;

/** How much of its light each pixel gets, as grey; all of it where nothing is lit. */
export const shareFragment = /* glsl */ `
${head}
uniform sampler2D uLight;
uniform sampler2D uSmooth;
in vec2 vPlace;
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  vec4 light = texelFetch(uLight, at, 0);
  float share = texelFetch(uSmooth, at, 0).r;
  if (share == NONE) share = light.b > 1e-4 ? light.r / light.b : 1.0;
  else if (share < 0.0) share += EDGE;
  // What takes no light lies before the rest of the pixel.
  outColour = vec4(vec3(mix(clamp(share, 0.0, 1.0), 1.0, clamp(light.g, 0.0, 1.0))), 1.0);
}
`;

/** The picture with its smoothed light, as it is shown: what met the camera as light goes through its curve only here. */
export const relightFragment = /* glsl */ `
${head}
${toneFunction}
uniform sampler2D uNew;
uniform sampler2D uLight;
uniform sampler2D uScene;
uniform sampler2D uSmooth;
/** What a lens scatters over the whole picture, how strong, and which part of that this is; and whether bodies without a finish stay without. */
uniform sampler2D uGlow;
uniform float uGlowStrength;
uniform vec4 uGlowTile;
uniform bool uGlowSpares;
in vec2 vPlace;
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  vec4 colour = texelFetch(uNew, at, 0);
  vec4 light = texelFetch(uLight, at, 0);
  vec4 scene = texelFetch(uScene, at, 0);
  float smoothed = texelFetch(uSmooth, at, 0).r;
  float change = 1.0;
  if (smoothed != NONE) {
    if (smoothed < 0.0) smoothed += EDGE;
    // The few directions of so many passes are not quite a whole sky: what stands free is set right by what it is known to get.
    float whole = light.a / light.b;
    change = mix(whole * (smoothed + 1e-3) / (light.r / light.b + 1e-3), 1.0, light.g);
  }
  // The shadow on a floor that is not there.
  float shadow = colour.a > 0.0 && colour.r + colour.g + colour.b + scene.a == 0.0 ? change : 1.0;
  vec3 shown = colour.rgb * change;
  if (scene.a > 0.0) shown += toned(scene.rgb * change / scene.a) * scene.a;
  if (uGlowStrength > 0.0) {
    float open = uGlowSpares ? clamp(scene.a + light.g, 0.0, 1.0) : 1.0;
    // Light upon light never goes beyond white.
    vec3 glow = open * uGlowStrength * textureLod(uGlow, uGlowTile.xy + vPlace * uGlowTile.zw, 0.0).rgb;
    shown += (1.0 - clamp(shown, 0.0, 1.0)) * (1.0 - exp(-glow));
  }
  outColour = vec4(shown, 1.0 - colour.a * shadow);
}
`;
