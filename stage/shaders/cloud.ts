/** What clouds leave of light that goes through them. */
export const cloudShadow = /* glsl */ `
#ifdef CLOUDED
precision highp sampler3D;
/** Rate of loss for each unit of the way, and where that is known. */
uniform sampler3D uCloud;
uniform vec3 uCloudLow;
uniform vec3 uCloudHigh;
/** Share of light from a direction that arrives at a place (Beer and Lambert's law), looked for in so many steps. */
float cloudLeaves(vec3 place, vec3 towards, float chance, int steps) {
  vec3 inverse = 1.0 / (towards + vec3(equal(towards, vec3(0.0))) * 1e-12);
  vec3 low = (uCloudLow - place) * inverse;
  vec3 high = (uCloudHigh - place) * inverse;
  vec3 near = min(low, high);
  vec3 far = max(low, high);
  float enter = max(0.0, max(max(near.x, near.y), near.z));
  float stride = max(0.0, min(min(far.x, far.y), far.z) - enter) / float(steps);
  vec3 size = vec3(textureSize(uCloud, 0));
  float lost = 0.0;
  for (int i = 0; i < (stride > 0.0 ? steps : 0); i++) {
    vec3 at = (place + towards * (enter + stride * (float(i) + chance)) - uCloudLow) / (uCloudHigh - uCloudLow);
    lost += textureLod(uCloud, (at * (size - 1.0) + 0.5) / size, 0.0).r;
  }
  return exp(-lost * stride);
}
#else
float cloudLeaves(vec3 place, vec3 towards, float chance, int steps) { return 1.0; }
#endif
`;
