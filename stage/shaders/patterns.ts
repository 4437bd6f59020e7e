import { type TextureKind, textureKinds } from '#core/light/finish.ts';

const is = (name: TextureKind): string => `kind == ${textureKinds.indexOf(name)}`;

/**
 * Patterns of finishes, numbers 0..1 of places in space. Noise of a lattice with gradients (Perlin 2002), whose turns come
 * from whole numbers well stirred (Jarzynski and Olano 2020), so that they are the same on every card.
 *
 * Noise stands here once, in a loop of two rounds of three, whatever the pattern: cards that draw by a processor lay out every
 * call of a function anew, and take long to get ready for large ones.
 */
export const patterns = /* glsl */ `
uvec3 stirred(uvec3 v) {
  v = v * 1664525u + 1013904223u;
  v.x += v.y * v.z; v.y += v.z * v.x; v.z += v.x * v.y;
  v ^= v >> 16u;
  v.x += v.y * v.z; v.y += v.z * v.x; v.z += v.x * v.y;
  return v;
}
vec3 chanceAt(ivec3 cell) {
  return vec3(stirred(uvec3(cell))) / 4294967295.0;
}
/** About -1..1, and as often above nothing as below. */
float noise(vec3 p) {
  ivec3 c = ivec3(floor(p));
  vec3 f = fract(p);
  vec3 s = f * f * f * (f * (6.0 * f - 15.0) + 10.0);
  float sum = 0.0;
  for (int i = 0; i < 8; i++) {
    ivec3 corner = ivec3(i & 1, (i >> 1) & 1, i >> 2);
    vec3 at = vec3(corner);
    vec3 weight = mix(1.0 - s, s, at);
    sum += weight.x * weight.y * weight.z * dot(2.0 * chanceAt(c + corner) - 1.0, f - at);
  }
  return sum;
}
/** Distance to the nearest of places strewn about, one a cell, and a number of its own. */
vec2 strewn(vec3 p) {
  ivec3 from = ivec3(floor(p - 0.5));
  vec2 best = vec2(9.0, 0.0);
  for (int i = 0; i < 8; i++) {
    ivec3 cell = from + ivec3(i & 1, (i >> 1) & 1, i >> 2);
    vec3 chance = chanceAt(cell);
    float away = distance(p, vec3(cell) + 0.2 + 0.6 * chance);
    if (away < best.x) best = vec2(away, chance.x);
  }
  return best;
}
/** @param p in grains, with the last number along what is up */
float patternAt(int kind, vec3 p, vec3 normal) {
  // Drawn level along walls, and one way across tops.
  bool top = abs(normal.z) > 0.7;
  vec3 n = vec3(0.0);
  int rounds = ${is('hammered')} || ${is('flakes')} ? 0 : ${is('veins')} || ${is('rings')} ? 2 : 1;
  for (int round = 2 - rounds; round < 2; round++) {
    vec3 q[3] = vec3[3](p, 2.3 * p + 7.0, 3.1 * p + 11.0);
    if (${is('brushed')}) {
      q[0] = top ? vec3(0.02 * p.x, 3.0 * p.y, 0.0) : vec3(0.02 * p.xy, 3.0 * p.z);
      q[1] = top ? vec3(0.03 * p.x, 7.0 * p.y, 5.0) : vec3(0.03 * p.xy, 7.0 * p.z);
    }
    if (${is('veins')}) {
      if (round == 0) q = vec3[3](0.7 * p, 0.7 * p + 5.0, 0.7 * p + 9.0);
      else q = vec3[3](0.6 * (p + 1.2 * n), 1.9 * p, 3.0 * (p + 1.2 * n));
    }
    if (${is('rings')}) {
      vec3 along = 0.3 * vec3(0.15 * p.x, p.yz);
      if (round == 0) q = vec3[3](along, along + 4.0, p);
      else q[0] = vec3(0.5 * p.x, 9.0 * p.yz);
    }
    if (${is('crumb')}) q = vec3[3](0.45 * p, 1.3 * p + 3.0, 2.6 * p + 8.0);
    if (${is('speckles')}) q[1] = q[2];
    if (${is('ripples')}) q[0] = 0.5 * p;
    if (${is('patches')}) q = vec3[3](0.5 * p, 1.7 * p + 2.0, p);
    vec3 before = n;
    // No more noise than the pattern is made of.
    int many = ${is('ripples')} || ${is('weave')} || (round == 1 && ${is('rings')}) ? 1
      : ${is('brushed')} || ${is('cast')} || ${is('speckles')} || ${is('patches')} ? 2 : 3;
    for (int i = 0; i < many; i++) n[i] = noise(q[i]);
    if (round == 1 && ${is('rings')}) n = vec3(before.xy, n.x);
  }
  if (${is('brushed')}) return 0.5 + 0.5 * (n.x + 0.5 * n.y);
  if (${is('cast')}) return 0.5 + 0.4 * n.x + 0.3 * n.y;
  if (${is('hammered')} || ${is('flakes')}) {
    vec2 near = strewn(${is('flakes')} ? 2.0 * p : p);
    return ${is('flakes')} ? near.y : smoothstep(0.0, 0.75, near.x);
  }
  if (${is('speckles')}) return max(smoothstep(0.12, 0.3, n.x), smoothstep(0.2, 0.3, n.y));
  if (${is('veins')}) return pow(clamp(1.0 - 3.0 * abs(n.x), 0.0, 1.0), 4.0) * (0.6 + 0.6 * n.y) + 0.12 * n.z;
  if (${is('rings')}) {
    float ring = fract(length(p.yz + 0.5 * n.xy + vec2(7.0, 3.0)) * 0.9);
    return smoothstep(0.0, 0.75, ring) * (1.0 - smoothstep(0.85, 1.0, ring)) * 0.85 + 0.25 * max(n.z, 0.0);
  }
  if (${is('crumb')}) return 0.5 + 0.5 * n.x + 0.25 * n.y - 0.6 * smoothstep(0.15, 0.45, n.z);
  if (${is('ripples')}) return 0.5 + 0.5 * sin(4.0 * (p.z + 0.6 * p.x) + 3.0 * n.x);
  if (${is('weave')}) {
    vec3 side = abs(normal);
    vec2 at = side.z > max(side.x, side.y) ? p.xy : side.x > side.y ? p.yz : p.xz;
    vec2 s = sin(6.2831853 * at);
    return 0.5 + 0.25 * (s.x * sign(s.y) + s.y * sign(s.x)) * (0.85 + 0.3 * n.x);
  }
  return ${is('patches')} ? 0.5 + 0.6 * n.x + 0.3 * n.y : 0.0;
}
`;
