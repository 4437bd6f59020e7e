import { outputs, shading } from './colour.ts';
import { seenPlace } from './seen-place.ts';

/** One layer of what is seen through in its light, from what `outputs` tells of it. */
export const layerFragment = /* glsl */ `
precision highp float;
precision highp int;
precision highp sampler2D;
${outputs}
${shading}
uniform sampler2D uColour;
uniform sampler2D uSurface;
uniform sampler2D uLayerOpacity;
${seenPlace}
in vec2 vPlace;
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  vec4 colour = texelFetch(uColour, at, 0);
  vec4 surface = texelFetch(uSurface, at, 0);
  float opacity = texelFetch(uLayerOpacity, at, 0).r;
  float kind = length(surface.xyz);
  if (kind < 0.5) {
    vec4 own = vec4(colour.rgb, opacity);
    put(surface.w > 0.0 ? hazed(own, surface.w, kind > 0.0) : own);
    return;
  }
  bool coloured;
  int finish = finishOf(colour.a, coloured);
  putShaded(finish, coloured, colour.rgb, opacity, surface.xyz / kind, seenPlace(vPlace, surface.w));
}
`;
