/**
 * Layers of what is seen through, one after the other from the front; see `SeeThrough`. With SURFACES one layer is drawn: what
 * lies behind the layer before it and in front of what is opaque. Without, whatever lies behind the last one. OWN_DEPTH is
 * the depth of a pixel; of a layer it is written by the shader itself, so that it is known to the last bit.
 */
export const peel = /* glsl */ `
#ifdef PEELED
#ifndef OWN_DEPTH
#define OWN_DEPTH gl_FragCoord.z
#endif
uniform bool uPeeled;
/** How deep the layer before lies, where there is one, and what is opaque. */
uniform sampler2D uPeelBefore;
uniform sampler2D uPeelBehind;
/** All that lies before. */
uniform sampler2D uPeelFront;
/** How far it lies behind lines drawn on it, in the depth that it gains across a pixel. */
uniform float uSlack;
/** Faces that lie less far apart are one: those of neighbours that share them. */
const float SAME = 4e-7;
/** Share of a pixel above which nothing that lies behind is seen any more: less than half a level of a picture. */
const float FULL = 0.998;
void keepToLayer(float opacity) {
  ivec2 at = ivec2(gl_FragCoord.xy);
  float depth = OWN_DEPTH;
  if (uSlack > 0.0) depth += uSlack * (abs(dFdx(depth)) + abs(dFdy(depth))) + SAME;
  if (uPeeled && depth <= texelFetch(uPeelBefore, at, 0).r + SAME) discard;
#ifdef SURFACES
  if (depth >= texelFetch(uPeelBehind, at, 0).r) discard;
  if (uPeeled && texelFetch(uPeelFront, at, 0).a > FULL) discard;
  gl_FragDepth = depth;
  outOpacity = vec4(opacity);
#endif
}
#else
void keepToLayer(float opacity) {}
#endif
`;
