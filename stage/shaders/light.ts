import { ROUGHNESS_STEPS } from '#core/light/filtered-panorama.ts';
import { aroundFunction } from './around.ts';
import { cloudShadow } from './cloud.ts';

/** What a caster of shadows writes where colours are kept: see `throughTarget`. */
export const depthOutput = /* glsl */ `
out vec4 outColour;
vec4 keptDepth(float depth) {
  return vec4(0.75 - depth, depth - 0.25, 0.0, 1.0);
}
`;

/** The light that arrives at a point, of the lights and of the surroundings. */
export const shadowLookup = /* glsl */ `
#define ROUGHNESS_STEPS ${ROUGHNESS_STEPS}
uniform sampler2D uKeyMap;
uniform mat4 uKeyMatrix;
uniform float uKeyStrength;
/** Depth in the map above which nothing stands in the way of the lamp. */
uniform float uKeyTop;
/** Width of the part of the lamp that one pass stands for, as a tangent. */
uniform float uKeyCone;
/** Seen along a direction and from the other end of it, as keptDepth writes it. */
uniform sampler2D uSkyMap;
uniform mat4 uSkyMatrix;
uniform vec3 uSkyDirection;
uniform float uSkyStrength;
uniform float uSkyTop;
/** Width of the part of the sky around its direction that one pass looks at, as a tangent; and across its map. */
uniform float uSkyCone;
uniform vec3 uSkyRight;
uniform vec3 uSkyRise;
uniform float uContact;
uniform float uBias;
uniform bool uShadow;
#ifdef SAMPLED
// Known beforehand where only passes are lit: the other way costs nothing then.
#define uSampled true
#else
uniform bool uSampled;
#endif
uniform vec3 uUp;

uniform float uPass;
/** Half the width of the face of the lamp as a share of the shadow map, seen across its whole depth. */
uniform float uLampSize;

/** Places on the face of the lamp: one in the middle, four around. */
const vec2 lampPlaces[5] = vec2[5](vec2(0.0), vec2(0.62, 0.36), vec2(-0.36, 0.62), vec2(-0.62, -0.36), vec2(0.36, -0.62));

/** Where the tile that is drawn begins in the whole picture, in pixels. */
uniform vec2 uCorner;

/** A number for this pixel and pass, evenly spread over neighbours (interleaved gradient noise, Jimenez 2014). */
float grain(float turn) {
  vec2 pixel = gl_FragCoord.xy + uCorner + 5.588238 * turn;
  return fract(52.9829189 * fract(dot(pixel, vec2(0.06711056, 0.00583715))) + uPass * 0.61803399);
}

/** A place on the unit disc for this pixel and pass. */
vec2 onDisc() {
  float angle = 6.2831853 * grain(1.0);
  float radius = sqrt(fract(grain(18.0) + uPass * 0.13656845));
  return radius * vec2(cos(angle), sin(angle));
}

/** A place in the map, moved within a few texels, so that their edges are not seen. */
vec3 startIn(mat4 map, float texel, vec3 place, bool ahead) {
  vec3 from = (map * vec4(place, 1.0)).xyz * 0.5 + 0.5;
  if (!ahead) from.z = 1.0 - from.z;
  from.xy += 2.0 * texel * (vec2(grain(2.0), grain(19.0)) - 0.5);
  from.z -= uBias;
  return from;
}

const int STRIDES = 4;
const int HALVINGS = 3;
/** Steepest surface in the map that is one surface, as depth over width; what falls steeper has an edge there. */
const float STEEPEST = 3.0;
/**
 * Share of the rays past an edge that find their way: what lies under the topmost surface is not in the map and
 * stands in the way of the others. Found by trial, so that few passes are neither brighter nor darker than many.
 */
const float PAST_EDGE = 0.4;

/** How the depth of the topmost surface is kept in a map: a number, and what is added to it of each channel. */
const vec3 PLAIN = vec3(0.0, 1.0, 0.0);
const vec3 AHEAD = vec3(0.75, -1.0, 0.0);
const vec3 BEHIND = vec3(0.75, 0.0, -1.0);

float depthAt(sampler2D map, vec3 kept, vec2 texel) {
  ivec2 at = ivec2(clamp(texel, vec2(0.0), vec2(textureSize(map, 0)) - 1.0));
  return dot(kept, vec3(1.0, texelFetch(map, at, 0).rg));
}

/**
 * Whether light arrives along a slanted ray, walked through the map of what one direction sees: so that one map
 * stands for a cone of directions. The map tells only the topmost surface of each place. Where the ray comes under
 * that surface it has gone through it; where it starts under it and comes out, it has either gone through it, or past
 * an edge of it.
 *
 * @param from place and depth in the map
 * @param slant sideways movement in the map for each unit of depth
 * @param top depth above which nothing stands in the way
 * @param chance evenly spread over neighbours and passes, 0..1
 */
float arrives(sampler2D map, vec3 kept, vec3 from, vec2 slant, float top, float chance) {
  // What lies below all that is in the map: nothing stands between it and the end of the map.
  float below = from.z - (kept == PLAIN ? 1.0 : kept.x);
  if (below > 0.0) from -= vec3(-slant * below, below + 1e-5);
  float rise = from.z - top;
  vec2 size = vec2(textureSize(map, 0));
  vec2 start = from.xy * size;
  // Above everything, or beside it.
  if (rise <= 0.0 || any(lessThan(start, vec2(0.0))) || any(greaterThan(start, size))) return 1.0;
  vec2 lean = slant * size;
  float before = 0.0;
  float seenBefore = depthAt(map, kept, start);
  float after = rise;
  float seenAfter = 1.0;
  bool starts = seenBefore < from.z;
  bool under = starts;
  bool blocked = false;
  // Short strides first.
  for (int i = 0; i < STRIDES; i++) {
    float share = min(1.0, (float(i) + chance) / float(STRIDES - 1));
    float way = rise * share * share;
    float seen = depthAt(map, kept, start + lean * way);
    bool below = seen < from.z - way;
    if (under) {
      if (below) before = way;
      if (below) seenBefore = seen;
      if (!below) after = way;
      if (!below) seenAfter = seen;
    } else blocked = blocked || below;
    under = under && below;
  }
  // Nothing stands above: what is still below a surface has not found the way out.
  if (blocked || under) return 0.0;
  if (!starts) return 1.0;
  for (int k = 0; k < HALVINGS; k++) {
    float middle = 0.5 * (before + after);
    float there = depthAt(map, kept, start + lean * middle);
    bool below = there < from.z - middle;
    if (below) before = middle;
    if (below) seenBefore = there;
    if (!below) after = middle;
    if (!below) seenAfter = there;
  }
  bool through = abs(seenAfter - seenBefore) < (STEEPEST * length(slant) + 1.0) * (after - before);
  return through ? 0.0 : step(fract(7.31 * chance), PAST_EDGE);
}

/** Share of the lamp that is seen from a place, from the part of it that this pass stands for. */
float lampSeen(vec3 place, vec2 disc) {
  vec3 from = startIn(uKeyMatrix, 1.0 / 1024.0, place, true);
  return arrives(uKeyMap, PLAIN, from, 2.0 * uKeyCone * disc, uKeyTop, grain(3.0));
}

float brightness(vec3 light) {
  return dot(light, vec3(0.2126, 0.7152, 0.0722));
}
/** Of three, one beside the other. */
vec3 brightnesses(mat3 lights) {
  return vec3(0.2126, 0.7152, 0.0722) * lights;
}

${aroundFunction}
/** What shines from everywhere: as matte surfaces see it; and, for finishes, as it is and as growing roughness mirrors it. */
uniform sampler2D uMatte;
uniform sampler2D uSharp;
uniform highp sampler2DArray uGlossy;

/** What a matte white surface gets of all that shines around it. */
vec3 matteSky(vec3 normal) {
  return textureLod(uMatte, surroundingsAt(normal), 0.0).rgb;
}

/** What a surface mirrors of the surroundings. */
vec3 mirrorSky(vec3 direction, float roughness) {
  vec2 at = surroundingsAt(direction);
  float step = clamp(roughness, 0.0, 1.0) * float(ROUGHNESS_STEPS);
  float layer = floor(step);
  vec3 rougher = textureLod(uGlossy, vec3(at, min(layer, float(ROUGHNESS_STEPS) - 1.0)), 0.0).rgb;
  vec3 smoother = layer < 1.0 ? textureLod(uSharp, at, 0.0).rgb : textureLod(uGlossy, vec3(at, layer - 1.0), 0.0).rgb;
  return mix(smoother, rougher, step - layer);
}

/** What a matte surface gets from either end of the direction of this pass, for each unit of its cosine. */
uniform vec3 uSkyAhead;
uniform vec3 uSkyBehind;

/**
 * Share that arrives of the light of the part of the sky that this pass stands for, which lies around either end of its
 * direction: whichever a surface faces; and in free all that light. How bright it is goes by its middle, the same for all
 * pixels, so that what stands free has no grain; what is in the way is looked for in a direction of the pixel's own.
 */
float skySeen(vec3 normal, vec3 place, vec2 disc, out vec3 free) {
  float facing = dot(normal, uSkyDirection);
  bool ahead = facing > 0.0;
  free = abs(facing) * (ahead ? uSkyAhead : uSkyBehind);
  vec2 slant = uSkyCone * disc;
  float tilt = dot(normal, slant.x * uSkyRight + slant.y * uSkyRise);
  // Never into the surface itself: then the other side of the cone is looked at.
  if (abs(facing) + tilt <= 0.0) slant = -slant;
  vec3 from = startIn(uSkyMatrix, 1.0 / 512.0, place, ahead);
  return arrives(uSkyMap, ahead ? AHEAD : BEHIND, from, 2.0 * slant, uSkyTop, grain(4.0));
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
  vec2 within = fract(middle) - 0.5;
  ivec2 at = clamp(ivec2(middle + within.yx * reach), ivec2(0), top);
  return (sum + step(c.z - uBias, texelFetch(uKeyMap, at, 0).r)) / 6.0;
}

/** Where lights stand, and their share of the light of all lights; and their colours. The first throws the shadow. */
uniform vec4 uLights[3];
uniform vec3 uLampColours[3];
uniform int uLampCount;
/** Keeps plain colours from being lit more than wholly. */
uniform float uPlainScale;

${cloudShadow}
/** What arrives at a place: the share of the first lamp that is seen, and of the sky, as a matte white surface gets it. */
struct Arriving {
  float seen;
  /** With what is in its way, without, and the whole of it. */
  vec3 sky;
  vec3 skyFree;
  vec3 skyWhole;
};

Arriving arrivingAt(vec3 normal, vec3 place, vec3 shift) {
  Arriving a;
  vec2 disc = uSampled ? onDisc() : vec2(0.0);
  a.seen = 1.0;
  if (uShadow && uLampCount > 0 && dot(normal, uLights[0].xyz) > 0.0)
    a.seen = uSampled ? lampSeen(place + shift, disc) : softlyLit(place + shift);
  if (uShadow && uLampCount > 0) a.seen *= cloudLeaves(place, uLights[0].xyz, grain(5.0), 16);
  a.skyWhole = matteSky(normal);
  // A picture of one pass is as bright as what stands free at rest: coming to rest keeps the exposure.
  if (!uSampled) a.skyWhole *= 1.0 - 0.05 * uContact;
  a.sky = a.skyWhole;
  a.skyFree = a.skyWhole;
  if (uSampled && uContact > 0.0) {
    vec3 free;
    float seen = skySeen(normal, place + 4.0 * shift, disc, free);
    vec3 sky = dot(normal, uSkyDirection) > 0.0 ? uSkyDirection : -uSkyDirection;
    seen *= cloudLeaves(place, sky, grain(6.0), 16);
    a.skyFree = mix(a.skyWhole, free, uContact);
    a.sky = mix(a.skyWhole, free * seen, uContact);
  }
  return a;
}

/** Light on a matte white surface with shadows, without, and the same with the whole sky instead of the part this pass stands for. */
mat3 matteLight(Arriving a, vec3 normal) {
  mat3 light = mat3(uSkyStrength * a.sky, uSkyStrength * a.skyFree, uSkyStrength * a.skyWhole);
  for (int i = 0; i < uLampCount; i++) {
    vec3 lamp = uKeyStrength * uLights[i].w * max(0.0, dot(normal, uLights[i].xyz)) * uLampColours[i];
    light += outerProduct(lamp, vec3(i == 0 ? a.seen : 1.0, 1.0, 1.0));
  }
  return light;
}

/** Its brightness, which is all that colours of values take of it. */
vec3 plainLight(mat3 light) {
  return uPlainScale * brightnesses(light);
}
`;
