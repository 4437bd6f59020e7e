import { type TextureKind, textureKinds } from '#core/light/finish.ts';

const is = (name: TextureKind): string => `kind == ${textureKinds.indexOf(name)}`;

/**
 * Patterns of finishes, numbers 0..1 of places in space, and how steeply they rise there. Noise of a lattice with gradients
 * (Perlin 2002), whose turns come from whole numbers well stirred (Jarzynski and Olano 2020), so that they are the same on
 * every card.
 *
 * A number stands with its slope in one vector, the number first; slopes follow from the rules of derivation, so that a
 * pattern is worked out once, not once more for each way that it may rise.
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
vec4 noise(vec3 p) {
  ivec3 c = ivec3(floor(p));
  vec3 f = fract(p);
  vec3 s = f * f * f * (f * (6.0 * f - 15.0) + 10.0);
  vec3 rise = 30.0 * f * f * (f * (f - 2.0) + 1.0);
  vec4 sum = vec4(0.0);
  for (int i = 0; i < 8; i++) {
    ivec3 corner = ivec3(i & 1, (i >> 1) & 1, i >> 2);
    vec3 at = vec3(corner);
    vec3 weight = mix(1.0 - s, s, at);
    vec3 steep = mix(-rise, rise, at);
    vec3 lean = 2.0 * chanceAt(c + corner) - 1.0;
    float height = dot(lean, f - at);
    vec3 across = vec3(steep.x * weight.y * weight.z, weight.x * steep.y * weight.z, weight.x * weight.y * steep.z);
    sum += weight.x * weight.y * weight.z * vec4(height, lean) + vec4(0.0, height * across);
  }
  return sum;
}
/** Where from the nearest of places strewn about, one a cell; and three numbers of that place's own. */
vec3 strewn(vec3 p, out vec3 own) {
  ivec3 from = ivec3(floor(p - 0.5));
  vec3 best = vec3(9.0);
  own = vec3(0.0);
  for (int i = 0; i < 8; i++) {
    ivec3 cell = from + ivec3(i & 1, (i >> 1) & 1, i >> 2);
    vec3 chance = chanceAt(cell);
    vec3 away = p - (vec3(cell) + 0.2 + 0.6 * chance);
    bool nearer = dot(away, away) < dot(best, best);
    best = nearer ? away : best;
    own = nearer ? chance : own;
  }
  return best;
}
vec4 number(float value) { return vec4(value, 0.0, 0.0, 0.0); }
vec4 times(vec4 a, vec4 b) { return vec4(a.x * b.x, a.x * b.yzw + b.x * a.yzw); }
/** 'smoothstep' of a number with its slope. */
vec4 smoothed(float from, float to, vec4 a) {
  float t = clamp((a.x - from) / (to - from), 0.0, 1.0);
  return vec4(t * t * (3.0 - 2.0 * t), 6.0 * t * (1.0 - t) / (to - from) * a.yzw);
}
vec4 sine(vec4 a) { return vec4(sin(a.x), cos(a.x) * a.yzw); }
vec4 larger(vec4 a, vec4 b) { return a.x > b.x ? a : b; }
vec4 clamped(vec4 a) { return a.x < 0.0 ? number(0.0) : a.x > 1.0 ? number(1.0) : a; }
/** @param p in grains, with the last number along what is up */
vec4 patternAt(int kind, vec3 p, vec3 normal) {
  // Drawn level along walls, and one way across tops.
  bool top = abs(normal.z) > 0.7;
  mat3x4 n = mat3x4(0.0);
  int rounds = ${is('hammered')} || ${is('flakes')} ? 0 : ${is('veins')} || ${is('rings')} ? 2 : 1;
  for (int round = 2 - rounds; round < 2; round++) {
    // Where noise is taken: places stretched along the axes and moved, in a second round also by the noise of the first.
    mat3 stretch = mat3(vec3(1.0), vec3(2.3), vec3(3.1));
    vec3 moved = vec3(0.0, 7.0, 11.0);
    vec3 bent = vec3(0.0);
    if (${is('brushed')}) {
      stretch[0] = top ? vec3(0.02, 3.0, 0.0) : vec3(0.02, 0.02, 3.0);
      stretch[1] = top ? vec3(0.03, 7.0, 0.0) : vec3(0.03, 0.03, 7.0);
      moved = vec3(0.0, 5.0, 0.0);
    }
    if (${is('veins')}) {
      stretch = round == 0 ? mat3(vec3(0.7), vec3(0.7), vec3(0.7)) : mat3(vec3(0.6), vec3(1.9), vec3(3.0));
      moved = round == 0 ? vec3(0.0, 5.0, 9.0) : vec3(0.0);
      bent = round == 0 ? vec3(0.0) : vec3(1.2, 0.0, 1.2);
    }
    if (${is('rings')}) {
      stretch[0] = round == 0 ? vec3(0.045, 0.3, 0.3) : vec3(0.5, 9.0, 9.0);
      stretch[1] = vec3(0.045, 0.3, 0.3);
      moved = vec3(0.0, 4.0, 0.0);
    }
    if (${is('crumb')}) {
      stretch = mat3(vec3(0.45), vec3(1.3), vec3(2.6));
      moved = vec3(0.0, 3.0, 8.0);
    }
    if (${is('speckles')}) {
      stretch[1] = stretch[2];
      moved.y = moved.z;
    }
    if (${is('ripples')}) stretch[0] = vec3(0.5);
    if (${is('patches')}) {
      stretch[0] = vec3(0.5);
      stretch[1] = vec3(1.7);
      moved.y = 2.0;
    }
    mat3x4 before = n;
    vec3 bend = vec3(before[0].x, before[1].x, before[2].x);
    // No more noise than the pattern is made of.
    int many = ${is('ripples')} || ${is('weave')} || (round == 1 && ${is('rings')}) ? 1
      : ${is('brushed')} || ${is('cast')} || ${is('speckles')} || ${is('patches')} || ${is('rings')} ? 2 : 3;
    for (int i = 0; i < many; i++) {
      vec4 found = noise(stretch[i] * (p + bent[i] * bend) + moved[i]);
      vec3 steep = stretch[i] * found.yzw;
      vec3 bending = steep.x * before[0].yzw + steep.y * before[1].yzw + steep.z * before[2].yzw;
      n[i] = vec4(found.x, steep + bent[i] * bending);
    }
    if (round == 1 && ${is('rings')}) n = mat3x4(before[0], before[1], n[0]);
  }
  if (${is('brushed')}) return number(0.5) + 0.5 * (n[0] + 0.5 * n[1]);
  if (${is('cast')}) return number(0.5) + 0.4 * n[0] + 0.3 * n[1];
  if (${is('hammered')} || ${is('flakes')}) {
    vec3 own;
    vec3 away = strewn(${is('flakes')} ? 2.0 * p : p, own);
    // Every flake leans its own way.
    if (${is('flakes')}) return vec4(own.x, 2.0 * own - 1.0);
    float far = length(away);
    return smoothed(0.0, 0.75, vec4(far, away / max(far, 1e-6)));
  }
  if (${is('speckles')}) return larger(smoothed(0.12, 0.3, n[0]), smoothed(0.2, 0.3, n[1]));
  if (${is('veins')}) {
    vec4 vein = clamped(number(1.0) - 3.0 * (n[0].x < 0.0 ? -n[0] : n[0]));
    vec4 squared = times(vein, vein);
    return times(times(squared, squared), number(0.6) + 0.6 * n[1]) + 0.12 * n[2];
  }
  if (${is('rings')}) {
    vec4 across = vec4(p.y + 7.0, 0.0, 1.0, 0.0) + 0.5 * n[0];
    vec4 along = vec4(p.z + 3.0, 0.0, 0.0, 1.0) + 0.5 * n[1];
    float far = max(length(vec2(across.x, along.x)), 1e-6);
    vec4 ring = 0.9 * vec4(far, (across.x * across.yzw + along.x * along.yzw) / far);
    ring.x = fract(ring.x);
    return 0.85 * times(smoothed(0.0, 0.75, ring), number(1.0) - smoothed(0.85, 1.0, ring))
      + 0.25 * larger(n[2], number(0.0));
  }
  if (${is('crumb')}) return number(0.5) + 0.5 * n[0] + 0.25 * n[1] - 0.6 * smoothed(0.15, 0.45, n[2]);
  if (${is('ripples')})
    return number(0.5) + 0.5 * sine(vec4(4.0 * (p.z + 0.6 * p.x), 2.4, 0.0, 4.0) + 3.0 * n[0]);
  if (${is('weave')}) {
    vec3 side = abs(normal);
    vec3 first = side.z > max(side.x, side.y) || side.x <= side.y ? vec3(1, 0, 0) : vec3(0, 1, 0);
    vec3 second = side.z > max(side.x, side.y) ? vec3(0, 1, 0) : vec3(0, 0, 1);
    vec4 u = sine(6.2831853 * vec4(dot(first, p), first));
    vec4 v = sine(6.2831853 * vec4(dot(second, p), second));
    return number(0.5) + 0.25 * times(u * sign(v.x) + v * sign(u.x), number(0.85) + 0.3 * n[0]);
  }
  return ${is('patches')} ? number(0.5) + 0.6 * n[0] + 0.3 * n[1] : number(0.0);
}
`;
