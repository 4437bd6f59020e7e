/** From light to what is shown of it: `toneCurve` of the core, in the words of the card. */
export const toneFunction = /* glsl */ `
#ifndef TONE
#define TONE
vec3 toned(vec3 c, float share) {
  float least = max(0.0, min(c.r, min(c.g, c.b)));
  c -= least < 0.08 * share ? least - 6.25 * least * least / share : 0.04 * share;
  float peak = max(c.r, max(c.g, c.b));
  if (peak < 0.76) return c;
  float drawnIn = 1.0 - 0.0576 / (peak - 0.52);
  float paler = 1.0 - 1.0 / (0.15 * (peak - drawnIn) + 1.0);
  return mix(c * drawnIn / peak, vec3(drawnIn), paler);
}
vec3 toned(vec3 c) {
  return toned(c, 1.0);
}
#endif
`;
