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

uniform sampler2D uTable;
uniform float uLow;
uniform float uHigh;
uniform float uBands;
uniform bool uHasField;
uniform vec3 uPlain;
uniform vec3 uMissing;
uniform float uOpacity;
uniform float uLayer;
uniform int uMode;

vec3 toLinear(vec3 c) {
  return mix(c / 12.92, pow((c + 0.055) / 1.055, vec3(2.4)), step(0.04045, c));
}

vec3 scaleColour(float value) {
  float width = uHigh - uLow;
  float t = width > 0.0 ? clamp((value - uLow) / width, 0.0, 1.0) : 0.5;
  if (uBands > 1.0) t = min(floor(t * uBands), uBands - 1.0) / (uBands - 1.0);
  else if (uBands == 1.0) t = 0.5;
  float at = t * 255.0;
  float i = min(floor(at), 254.0);
  vec3 a = texelFetch(uTable, ivec2(int(i), 0), 0).rgb;
  vec3 b = texelFetch(uTable, ivec2(int(i) + 1, 0), 0).rgb;
  return toLinear(mix(a, b, at - i));
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

/** A place on a disc for this pixel and pass: turns the hard steps between few lights into fine, even grain. */
vec2 scatter() {
  float angle = 6.2831853 * fract(52.9829189 * fract(dot(gl_FragCoord.xy, vec2(0.06711056, 0.00583715))) + uPass * 0.61803399);
  float radius = sqrt(fract(0.7548777 * uPass + 0.5698403 * fract(dot(gl_FragCoord.xy, vec2(0.7548777, 0.5698403)))));
  return radius * vec2(cos(angle), sin(angle));
}

/** Share of light that arrives, looked up within a spread of texels. */
float lit(sampler2D map, mat4 matrix, vec3 place, float spread) {
  vec4 p = matrix * vec4(place, 1.0);
  vec3 c = p.xyz * 0.5 + 0.5;
  if (c.x <= 0.0 || c.x >= 1.0 || c.y <= 0.0 || c.y >= 1.0 || c.z >= 1.0) return 1.0;
  vec2 size = vec2(textureSize(map, 0));
  vec2 at = c.xy * size - 0.5 + (uSampled ? scatter() * spread : vec2(0.0));
  vec2 f = fract(at);
  ivec2 b = ivec2(floor(at));
  ivec2 top = ivec2(size) - 1;
  float s00 = step(c.z - uBias, texelFetch(map, clamp(b, ivec2(0), top), 0).r);
  float s10 = step(c.z - uBias, texelFetch(map, clamp(b + ivec2(1, 0), ivec2(0), top), 0).r);
  float s01 = step(c.z - uBias, texelFetch(map, clamp(b + ivec2(0, 1), ivec2(0), top), 0).r);
  float s11 = step(c.z - uBias, texelFetch(map, clamp(b + ivec2(1, 1), ivec2(0), top), 0).r);
  return mix(mix(s00, s10, f.x), mix(s01, s11, f.x), f.y);
}

/** Strength of the surroundings in a direction: brighter above than below. */
float surroundings(float up) {
  return mix(uGroundStrength, 1.0, 0.5 + 0.5 * up);
}

float lightOn(vec3 normal, vec3 place, vec3 shift) {
  float key = max(0.0, dot(normal, uKeyDirection));
  if (uShadow && key > 0.0) key *= lit(uKeyMap, uKeyMatrix, place + shift, 1.5);
  float open;
  if (uSampled) {
    float facing = max(0.0, dot(normal, uSkyDirection));
    float sees = facing > 0.0 ? lit(uSkyMap, uSkyMatrix, place + 4.0 * shift, 5.0) : 0.0;
    float plain = surroundings(dot(normal, uUp)) * (uContact < 1.0 ? 1.0 - uContact : 0.0);
    open = plain + uContact * 4.0 * facing * sees * surroundings(dot(uSkyDirection, uUp));
  } else {
    open = surroundings(dot(normal, uUp)) * (1.0 - 0.22 * uContact);
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
out vec3 vView;
out float vValue;
out float vKnown;
void main() {
  vPlace = position;
  vUv = uv;
  vNormal = normal;
  vec4 seen = modelViewMatrix * vec4(position, 1.0);
  vView = seen.xyz;
  vValue = value;
  vKnown = known;
  gl_Position = projectionMatrix * seen;
  gl_Position.z -= uNumberPull * gl_Position.w;
}
`;

/** Modes: 0 picture, 1 pick (value, shape, depth, known), 2 pick the normal. */
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
in vec3 vView;
in float vValue;
in float vKnown;
out vec4 outColour;
void main() {
  vec3 normal = normalize(vNormal);
  vec3 toEye = uParallel ? uTowards : normalize(uEye - vPlace);
  float facing = dot(normal, toEye);
  if (uInside && facing > 0.0) discard;
  if (uAway == 2 || (uAway == 1 && uMode > 0)) discard;
  if (uMode == 2) {
    outColour = vec4(facing < 0.0 ? -normal : normal, 1.0);
    return;
  }
  if (uMode == 1) {
    outColour = vec4(vValue, uLayer, -vView.z, uHasField ? vKnown : 0.0);
    return;
  }
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

/** Depth only, seen from a light. What is cut open for the camera does not keep the light out either. */
export const casterFragment = /* glsl */ `
precision highp float;
uniform vec3 uEye;
uniform vec3 uTowards;
uniform bool uParallel;
uniform bool uInside;
uniform int uAway;
in vec3 vPlace;
in vec3 vNormal;
out vec4 outColour;
void main() {
  if (uAway > 0) discard;
  vec3 toEye = uParallel ? uTowards : normalize(uEye - vPlace);
  if (uInside && dot(normalize(vNormal), toEye) > 0.0) discard;
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
out vec3 vView;
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
  vView = (modelViewMatrix * vec4(mix(from, to, corner.x), 1.0)).xyz;
}
`;

export const lineFragment = /* glsl */ `
${common}
uniform int uAway;
in float vValue;
in float vKnown;
in vec3 vView;
out vec4 outColour;
void main() {
  if (uAway > 0 || uMode == 2) discard;
  if (uMode == 1) {
    outColour = vec4(vValue, uLayer, -vView.z, uHasField ? vKnown : 0.0);
    return;
  }
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
out vec3 vView;
void main() {
  vec4 seen = modelViewMatrix * vec4(position, 1.0);
  vView = seen.xyz;
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
uniform bool uStraightAlpha;
in vec2 vPlace;
out vec4 outColour;
void main() {
  vec4 c = texture(uNew, vPlace);
  float alpha = clamp(c.a, 0.0, 1.0);
  vec3 colour = alpha > 0.0 ? clamp(c.rgb / alpha, 0.0, 1.0) : vec3(0.0);
  vec3 shown = mix(12.92 * colour, 1.055 * pow(colour, vec3(1.0 / 2.4)) - 0.055, step(0.0031308, colour));
  outColour = uStraightAlpha ? vec4(shown, alpha) : vec4(shown * alpha, alpha);
}
`;
