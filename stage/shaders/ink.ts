import { FIRST_BODY, outputs } from './colour.ts';
import { haze } from './haze.ts';

/**
 * Where the edges of bodies are, of opaque ones or of a layer of what is seen through, each on the nearer side of it: found from what lies where in the pass, in steps from a
 * pixel to its neighbours. Writes how strong its line is.
 */
export const edgesFragment = /* glsl */ `
precision highp float;
precision highp int;
precision highp sampler2D;
${haze}
/** Normal and distance, as 'outputs' tells. */
uniform sampler2D uSurface;
/** Which are wanted: around bodies, where they bend, where they meet. */
uniform bvec3 uWanted;
/** The cosine of the least bend. */
uniform float uBend;
/** Whether the bodies are a layer of what is seen through; and what is opaque, which ends it without being an edge of it. */
uniform bool uLayer;
uniform sampler2D uOpaque;
/** How much of the model a pixel is: everywhere, and for each unit of distance. */
uniform vec2 uPixelSpan;
out vec4 outColour;

/** Steps that are no slope of one surface, in pixels; and as a share of how steeply it falls there. */
const float STEP = 1.3;
const float STEEP = 0.6;

/** Zero for nothing, one for the floor, above that a body; below zero for what takes no light. */
float bodyOf(vec4 surface) {
  float kind = length(surface.xyz);
  return kind > 0.5 ? round(kind) : surface.w == 0.0 ? 0.0 : -1.0;
}
ivec2 within(ivec2 at) {
  return clamp(at, ivec2(0), textureSize(uSurface, 0) - 1);
}
vec4 surfaceAt(ivec2 at) {
  return texelFetch(uSurface, within(at), 0);
}
bool endsAtOpaque(vec4 own, ivec2 at) {
  float opaque = texelFetch(uOpaque, within(at), 0).w;
  return uLayer && opaque > 0.0 && opaque < own.w;
}

/** Whether an edge runs between a pixel and its neighbour, on the side of the pixel. */
bool edgeTo(vec4 own, float body, ivec2 at, ivec2 aside) {
  vec4 other = surfaceAt(at + aside);
  float there = bodyOf(other);
  // Lines and words have no edges, nor hide those of others.
  if (there < 0.0) return false;
  if (there < ${FIRST_BODY}.0 - 0.5) return uWanted.x && !endsAtOpaque(own, at + aside);
  bool before = own.w <= other.w;
  vec4 back = surfaceAt(at - aside);
  vec4 beyond = surfaceAt(at + 2 * aside);
  // Slopes are told from pixels of the same body alone.
  float slope = bodyOf(back) == body ? own.w - back.w : 0.0;
  float slopeThere = bodyOf(beyond) == there ? beyond.w - other.w : 0.0;
  float pixel = uPixelSpan.x + uPixelSpan.y * own.w;
  float off = abs(other.w - own.w - slope) - STEEP * abs(slope);
  float offThere = abs(other.w - own.w - slopeThere) - STEEP * abs(slopeThere);
  bool apart = min(off, offThere) > STEP * pixel;
  if (apart) return uWanted.x && before;
  if (there != body) return uWanted.z && (own.w < other.w || (own.w == other.w && body > there));
  bool first = aside.x + aside.y > 0;
  return uWanted.y && first && dot(normalize(own.xyz), normalize(other.xyz)) < uBend;
}

void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  vec4 own = surfaceAt(at);
  float body = bodyOf(own);
  outColour = vec4(0.0);
  // Nothing, the floor, and what takes no light have no edges of their own.
  if (body < ${FIRST_BODY}.0 - 0.5) return;
  bool found = edgeTo(own, body, at, ivec2(1, 0)) || edgeTo(own, body, at, ivec2(-1, 0))
    || edgeTo(own, body, at, ivec2(0, 1)) || edgeTo(own, body, at, ivec2(0, -1));
  if (found) outColour = vec4(1.0 - hazeAt(own.w, false));
}
`;

/** Lines of a width along those edges, in their light: put over what is there. */
export const inkFragment = /* glsl */ `
precision highp float;
precision highp int;
precision highp sampler2D;
${outputs}
uniform sampler2D uEdges;
uniform sampler2D uSurface;
uniform vec3 uInk;
/** In pixels. */
uniform float uInkWidth;
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  vec4 surface = texelFetch(uSurface, at, 0);
  // Lines and words lie over the ink.
  if (length(surface.xyz) < 0.5 && surface.w != 0.0) discard;
  float radius = max(0.0, 0.5 * (uInkWidth - 1.0));
  int reach = int(ceil(radius));
  ivec2 last = textureSize(uEdges, 0) - 1;
  float strength = 0.0;
  for (int y = -reach; y <= reach; y++)
    for (int x = -reach; x <= reach; x++) {
      // The outermost ring as far as it is covered.
      float covered = clamp(radius + 1.0 - length(vec2(x, y)), 0.0, 1.0);
      if (covered > 0.0) strength = max(strength, covered * texelFetch(uEdges, clamp(at + ivec2(x, y), ivec2(0), last), 0).r);
    }
  strength *= min(1.0, uInkWidth);
  if (strength <= 0.0) discard;
  put(vec4(uInk, 1.0) * strength);
}
`;
