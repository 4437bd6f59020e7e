import { scaleShader } from '#core/colour/compiled-scale.ts';

/**
 * The shading of everything on the stage.
 *
 * Vertices carry values; the colour is looked up for each pixel after the value was interpolated, so colours are
 * never blended with each other. Light multiplies the linear colour by one number that stays at or below one: hue and
 * chroma survive, which is what makes the picture agree with its legend.
 */

/** Colour of a value, light of a point; shared by surfaces, lines and dots. */
export const common = /* glsl */ `
precision highp float;
precision highp int;
precision highp sampler2D;

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

const shadowLookup = /* glsl */ `
uniform sampler2D uKeyMap;
uniform mat4 uKeyMatrix;
uniform vec3 uKeyDirection;
uniform float uKeyStrength;
uniform sampler2D uSkyMap;
uniform mat4 uSkyMatrix;
uniform vec3 uSkyDirection;
uniform float uSkyStrength;
uniform float uGroundStrength;
uniform float uContact;
uniform float uBias;
uniform bool uShadow;
uniform bool uSampled;
uniform vec3 uUp;

uniform float uPass;
/** Half the width of the face of the lamp as a share of the shadow map, seen across its whole depth. */
uniform float uLampSize;

/** Places on the face of the lamp: one in the middle, four around. */
const vec2 lampPlaces[5] = vec2[5](vec2(0.0), vec2(0.62, 0.36), vec2(-0.36, 0.62), vec2(-0.62, -0.36), vec2(0.36, -0.62));

/** Where the tile that is drawn begins in the whole picture, in pixels. */
uniform vec2 uCorner;

/** A place on a disc for this pixel and pass: turns the hard steps between few lights into fine, even grain. */
vec2 scatter() {
  vec2 pixel = gl_FragCoord.xy + uCorner;
  float angle = 6.2831853 * fract(52.9829189 * fract(dot(pixel, vec2(0.06711056, 0.00583715))) + uPass * 0.61803399);
  float radius = sqrt(fract(0.7548777 * uPass + 0.5698403 * fract(dot(pixel, vec2(0.7548777, 0.5698403)))));
  return radius * vec2(cos(angle), sin(angle));
}

/** Share of light that arrives, looked up so many texels aside. */
float lit(sampler2D map, mat4 matrix, vec3 place, vec2 aside) {
  vec4 p = matrix * vec4(place, 1.0);
  vec3 c = p.xyz * 0.5 + 0.5;
  if (c.x <= 0.0 || c.x >= 1.0 || c.y <= 0.0 || c.y >= 1.0 || c.z >= 1.0) return 1.0;
  vec2 size = vec2(textureSize(map, 0));
  vec2 at = c.xy * size - 0.5 + aside;
  vec2 f = fract(at);
  ivec2 b = ivec2(floor(at));
  ivec2 top = ivec2(size) - 1;
  float s00 = step(c.z - uBias, texelFetch(map, clamp(b, ivec2(0), top), 0).r);
  float s10 = step(c.z - uBias, texelFetch(map, clamp(b + ivec2(1, 0), ivec2(0), top), 0).r);
  float s01 = step(c.z - uBias, texelFetch(map, clamp(b + ivec2(0, 1), ivec2(0), top), 0).r);
  float s11 = step(c.z - uBias, texelFetch(map, clamp(b + ivec2(1, 1), ivec2(0), top), 0).r);
  return mix(mix(s00, s10, f.x), mix(s01, s11, f.x), f.y);
}

/**
 * The same for a lamp of some size in one go, for pictures of a single pass: the farther what casts the shadow, the
 * softer its edge (percentage-closer soft shadows, Fernando 2005), with five places on the face of the lamp.
 */
float softlyLit(vec3 place) {
  vec3 c = (uKeyMatrix * vec4(place, 1.0)).xyz * 0.5 + 0.5;
  if (c.x <= 0.0 || c.x >= 1.0 || c.y <= 0.0 || c.y >= 1.0 || c.z >= 1.0) return 1.0;
  vec2 size = vec2(textureSize(uKeyMap, 0));
  ivec2 top = ivec2(size) - 1;
  vec2 middle = c.xy * size;
  float away = 0.0;
  float found = 0.0;
  for (int i = 0; i < 5; i++) {
    float d = texelFetch(uKeyMap, clamp(ivec2(middle + lampPlaces[i] * 14.0), ivec2(0), top), 0).r;
    if (d < c.z - uBias) {
      away += c.z - d;
      found += 1.0;
    }
  }
  if (found == 0.0) return 1.0;
  float reach = clamp(away / found * uLampSize * size.x, 1.5, 40.0);
  float sum = 0.0;
  for (int i = 0; i < 5; i++) {
    ivec2 at = clamp(ivec2(middle + lampPlaces[i] * reach), ivec2(0), top);
    sum += step(c.z - uBias, texelFetch(uKeyMap, at, 0).r);
  }
  vec2 grain = fract(middle) - 0.5;
  ivec2 at = clamp(ivec2(middle + grain.yx * reach), ivec2(0), top);
  return (sum + step(c.z - uBias, texelFetch(uKeyMap, at, 0).r)) / 6.0;
}

/** Strength of the surroundings in a direction: brighter above than below. */
float surroundings(float up) {
  return mix(uGroundStrength, 1.0, 0.5 + 0.5 * up);
}

float lightOn(vec3 normal, vec3 place, vec3 shift) {
  vec2 aside = uSampled ? scatter() : vec2(0.0);
  float key = max(0.0, dot(normal, uKeyDirection));
  if (uShadow && key > 0.0)
    key *= uSampled ? lit(uKeyMap, uKeyMatrix, place + shift, 1.5 * aside) : softlyLit(place + shift);
  float open;
  if (uSampled) {
    float facing = max(0.0, dot(normal, uSkyDirection));
    float sees = facing > 0.0 ? lit(uSkyMap, uSkyMatrix, place + 4.0 * shift, 5.0 * aside) : 0.0;
    float plain = surroundings(dot(normal, uUp)) * (uContact < 1.0 ? 1.0 - uContact : 0.0);
    open = plain + uContact * 4.0 * facing * sees * surroundings(dot(uSkyDirection, uUp));
  } else {
    // As bright as what stands free at rest: a picture that comes to rest keeps its exposure.
    open = surroundings(dot(normal, uUp)) * (1.0 - 0.05 * uContact);
  }
  return uKeyStrength * key + uSkyStrength * open;
}
`;

export const surfaceVertex = /* glsl */ `
precision highp float;
in vec3 position;
in vec3 normal;
in float value;
in float known;
in vec2 uv;
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
uniform float uNumberPull;
out vec2 vUv;
out vec3 vPlace;
out vec3 vNormal;
out float vValue;
out float vKnown;
void main() {
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
${shadowLookup}
uniform vec3 uEye;
uniform vec3 uTowards;
uniform bool uParallel;
uniform bool uInside;
uniform bool uEven;
uniform float uShift;
uniform bool uHasPicture;
uniform sampler2D uPicture;
uniform int uAway;
in vec2 vUv;
in vec3 vPlace;
in vec3 vNormal;
in float vValue;
in float vKnown;
out vec4 outColour;
void main() {
  vec3 normal = normalize(vNormal);
  vec3 toEye = uParallel ? uTowards : normalize(uEye - vPlace);
  float facing = dot(normal, toEye);
  if (uInside && facing > 0.0) discard;
  if (uAway == 2) discard;
  if (uHasPicture) {
    // A picture shows its own colours, whatever the light.
    vec4 seen = texture(uPicture, vUv);
    outColour = vec4(toLinear(seen.rgb) * seen.a * uOpacity, seen.a * uOpacity);
    return;
  }
  vec3 colour = ownColour(vValue, vKnown);
  if (!uEven) {
    if (facing < 0.0) normal = -normal;
    colour *= lightOn(normal, vPlace, normal * uShift);
  }
  float opacity = uAway == 1 ? uOpacity * 0.13 : uOpacity;
  outColour = vec4(colour * opacity, opacity);
}
`;

/** Only where it is; and which side of it the camera sees. */
export const casterVertex = /* glsl */ `
precision highp float;
in vec3 position;
in vec3 normal;
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
uniform vec3 uEye;
uniform vec3 uTowards;
uniform bool uParallel;
out float vFront;
void main() {
  vFront = dot(normal, uParallel ? uTowards : uEye - position);
  gl_Position = projectionMatrix * (modelViewMatrix * vec4(position, 1.0));
}
`;

/** Depth only, seen from a light. What is cut open for the camera does not keep the light out either. */
export const casterFragment = /* glsl */ `
precision highp float;
uniform bool uInside;
in float vFront;
out vec4 outColour;
void main() {
  if (uInside && vFront > 0.0) discard;
  outColour = vec4(1.0);
}
`;

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
out vec4 outColour;
void main() {
  if (uAway > 0) discard;
  outColour = vec4(ownColour(vValue, vKnown) * uOpacity, uOpacity);
}
`;

/** Bodies with no extent of their own, as round dots of a size in pixels. */
export const dotVertex = /* glsl */ `
precision highp float;
in vec3 position;
in float value;
in float known;
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
uniform float uWidth;
out float vValue;
out float vKnown;
void main() {
  vec4 seen = modelViewMatrix * vec4(position, 1.0);
  vValue = value;
  vKnown = known;
  gl_Position = projectionMatrix * seen;
  gl_PointSize = uWidth * 3.0;
}
`;

export const dotFragment = lineFragment.replace(
  'void main() {',
  'void main() {\n  if (length(gl_PointCoord - 0.5) > 0.5) discard;',
);

export const screenVertex = /* glsl */ `
precision highp float;
in vec3 position;
out vec2 vPlace;
void main() {
  vPlace = position.xy * 0.5 + 0.5;
  gl_Position = vec4(position.xy, 1.0, 1.0);
}
`;

/** The backdrop: a soft fall of light from the top of the whole picture to its foot, whatever tile is drawn. */
export const backdropFunction = /* glsl */ `
uniform vec3 uTop;
uniform vec3 uFoot;
uniform vec4 uTile;
vec3 backdropAt(vec2 place) {
  vec2 whole = uTile.xy + place * uTile.zw;
  float glow = 1.0 - 0.10 * smoothstep(0.25, 0.95, length((whole - vec2(0.5, 0.52)) * vec2(1.15, 1.0)));
  return mix(uFoot, uTop, smoothstep(0.0, 1.0, whole.y)) * glow;
}
`;

export const backdropFragment = /* glsl */ `
precision highp float;
${backdropFunction}
in vec2 vPlace;
out vec4 outColour;
void main() {
  outColour = vec4(backdropAt(vPlace), 1.0);
}
`;

export const floorVertex = /* glsl */ `
precision highp float;
in vec3 position;
uniform mat4 modelMatrix;
uniform mat4 viewMatrix;
uniform mat4 projectionMatrix;
out vec3 vWorld;
out vec4 vClip;
void main() {
  vec4 world = modelMatrix * vec4(position, 1.0);
  vWorld = world.xyz;
  vClip = projectionMatrix * viewMatrix * world;
  gl_Position = vClip;
}
`;

/** The floor takes the colour of the backdrop behind it and darkens where the model keeps light away. */
export const floorFragment = /* glsl */ `
precision highp float;
precision highp sampler2D;
${shadowLookup}
${backdropFunction}
uniform vec3 uCentre;
uniform float uReach;
uniform bool uTransparent;
in vec3 vWorld;
in vec4 vClip;
out vec4 outColour;
void main() {
  float free = uKeyStrength * max(0.0, dot(uUp, uKeyDirection)) + uSkyStrength;
  float light = lightOn(uUp, vWorld, uUp * uBias) / free;
  float fade = smoothstep(0.22 * uReach, 0.62 * uReach, length(vWorld - uCentre));
  float share = mix(light, 1.0, fade);
  share = mix(share, 1.0, 0.12);
  if (uTransparent) outColour = vec4(0.0, 0.0, 0.0, 1.0 - share);
  else outColour = vec4(backdropAt(vClip.xy / vClip.w * 0.5 + 0.5) * share, 1.0);
}
`;

/** Running mean of the passes. */
export const averageFragment = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform sampler2D uNew;
uniform sampler2D uOld;
uniform float uShare;
in vec2 vPlace;
out vec4 outColour;
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  outColour = mix(texelFetch(uOld, at, 0), texelFetch(uNew, at, 0), uShare);
}
`;

/** From linear, premultiplied light to what a screen or an image file holds. */
export const developFragment = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform sampler2D uNew;
in vec2 vPlace;
out vec4 outColour;
void main() {
  vec4 c = texelFetch(uNew, ivec2(gl_FragCoord.xy), 0);
  float alpha = clamp(c.a, 0.0, 1.0);
  vec3 colour = alpha > 0.0 ? clamp(c.rgb / alpha, 0.0, 1.0) : vec3(0.0);
  vec3 shown = mix(12.92 * colour, 1.055 * pow(colour, vec3(1.0 / 2.4)) - 0.055, step(0.0031308, colour));
  outColour = vec4(shown * alpha, alpha);
}
`;

/** The same at a smaller size: each pixel is the mean of those it stands for. */
export const smallerFragment = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform sampler2D uNew;
uniform vec2 uScale;
in vec2 vPlace;
out vec4 outColour;
void main() {
  ivec2 size = textureSize(uNew, 0);
  ivec2 from = ivec2(floor((gl_FragCoord.xy - 0.5) * uScale));
  ivec2 count = ivec2(ceil(uScale));
  vec4 sum = vec4(0.0);
  for (int y = 0; y < count.y; y++)
    for (int x = 0; x < count.x; x++)
      sum += texelFetch(uNew, min(from + ivec2(x, y), size - 1), 0);
  outColour = sum / float(count.x * count.y);
}
`;

/** A picture as it is, at the size of the canvas. */
export const copyFragment = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform sampler2D uNew;
in vec2 vPlace;
out vec4 outColour;
void main() {
  outColour = texture(uNew, vPlace);
}
`;
