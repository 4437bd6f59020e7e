import { footprint } from './screen.ts';

const head = /* glsl */ `
precision highp float;
precision highp sampler2D;
out vec4 outColour;
`;

/** How much brighter than white light is that met the camera, at a smaller size: each pixel the mean of those it stands for. */
export const excessFragment = /* glsl */ `
${head}
uniform sampler2D uScene;
${footprint}
void main() {
  ivec2 size = textureSize(uScene, 0);
  ivec2 from = footprintFrom();
  ivec2 count = footprintCount();
  vec3 sum = vec3(0.0);
  for (int y = 0; y < count.y; y++)
    for (int x = 0; x < count.x; x++) {
      vec4 light = texelFetch(uScene, clamp(from + ivec2(x, y), ivec2(0), size - 1), 0);
      sum += max(vec3(0.0), light.rgb - light.a);
    }
  outColour = vec4(sum / float(count.x * count.y), 1.0);
}
`;

/** It spread along rows or columns, by a Gaussian. */
export const spreadFragment = /* glsl */ `
${head}
uniform sampler2D uNew;
uniform ivec2 uAlong;
/** Standard deviation, in pixels. */
uniform float uDeviation;
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  ivec2 last = textureSize(uNew, 0) - 1;
  int reach = int(ceil(3.5 * uDeviation));
  vec3 sum = vec3(0.0);
  float weights = 0.0;
  for (int i = -reach; i <= reach; i++) {
    float weight = exp(-0.5 * float(i * i) / (uDeviation * uDeviation));
    ivec2 from = at + i * uAlong;
    weights += weight;
    // Beyond the picture it is dark.
    bool within = all(greaterThanEqual(from, ivec2(0))) && all(lessThanEqual(from, last));
    if (within) sum += weight * texelFetch(uNew, from, 0).rgb;
  }
  outColour = vec4(sum / weights, 1.0);
}
`;
