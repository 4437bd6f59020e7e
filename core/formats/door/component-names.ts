import { byName } from '../../model/by-name.ts';

/** Scalars whose names say that they are components of one quantity. */
export interface NamedComponents {
  name: string;
  /** Index of the scalar of each component. */
  columns: number[];
  /** They are named as the six of a symmetric tensor. */
  tensor?: boolean;
}

const vectorEnds = ['x', 'y', 'z'];
const tensorEnds = ['xx', 'yy', 'zz', 'xy', 'yz', 'zx'];
/** Other spellings of the last three. */
const turned = byName({ zx: 'xz', yz: 'zy', xy: 'yx' });

/** What vectors are called whose components are named by a letter or two. Common practice, no source. */
const spoken = byName({
  v: 'velocity',
  vel: 'velocity',
  f: 'force',
  mu: 'dipole',
  omega: 'angular velocity',
  tq: 'torque',
  angmom: 'angular momentum',
});

/** Tails of coordinates that name their axis first: `xu yu zu`. Common practice, no source. */
const axisFirst = byName({ u: 'unwrapped position', s: 'scaled position', su: 'scaled unwrapped position' });

/** Quantities that have a direction: three numbered scalars of such a name are its components. */
const directed =
  /^(v|u|f|vel(ocity)?|displ?(acement)?|force|acc(eleration)?|mom(entum)?|dipole|torque|heat[ _]?flux|field|[ebjdh])$/i;

/**
 * Puts names together: `DISPX DISPY DISPZ`, `vx vy vz`, `VelocityX ..`, `velocity_0 velocity_1 velocity_2`,
 * `xu yu zu`, `stress_xx ..` and `c_s[1] c_s[2] ..` become a vector, a symmetric tensor (xx yy zz xy yz zx) or a field
 * of as many components; other names stay alone.
 */
export function componentNames(names: string[]): NamedComponents[] {
  const lower = names.map((n) => n.toLowerCase());
  const at = new Map(lower.map((name, i) => [name, i]));
  const used = new Set<number>();
  const out: NamedComponents[] = [];
  const like = (base: string, end: string): number =>
    at.get(base + end) ?? (turned[end] ? at.get(base + turned[end]) : undefined) ?? -1;
  const take = (columns: number[], name: string, tensor = false): void => {
    for (const c of columns) used.add(c);
    out.push({ name, columns, ...(tensor && { tensor }) });
  };
  const base = (i: number, ending: number): string => {
    const plain = names[i].slice(0, names[i].length - ending).replace(/[_\s.-]+$/, '');
    return spoken[plain.toLowerCase()] ?? (plain || names[i]);
  };
  // Tensors first: their components end like those of vectors.
  for (const [i, name] of lower.entries()) {
    if (!name.endsWith('xx') || name.length < 3) continue;
    const found = tensorEnds.map((e) => like(name.slice(0, -2), e));
    if (found[0] === i && found.every((c) => c >= 0)) take(found, base(i, 2), true);
  }
  for (const [i, name] of lower.entries()) {
    if (used.has(i)) continue;
    const found =
      name.endsWith('x') && name.length > 1 ? vectorEnds.map((e) => like(name.slice(0, -1), e)) : [];
    if (found[1] >= 0 && !found.some((c) => used.has(c)))
      take(
        found.filter((c) => c >= 0),
        base(i, 1),
      );
  }
  for (const [i, name] of lower.entries()) {
    if (used.has(i)) continue;
    const tail = name[0] === 'x' ? axisFirst[name.slice(1)] : undefined;
    const places = tail ? vectorEnds.map((e) => at.get(e + name.slice(1)) ?? -1) : [];
    if (places.length > 0 && places.every((c) => c >= 0)) take(places, tail!);
    else {
      const numbered = numberedFrom(lower, i, at);
      if (numbered && !numbered.some((c) => used.has(c)))
        take(numbered, base(i, names[i].length - (/^(.*?)[[_. ]*\d+\]?$/.exec(names[i])?.[1].length ?? 0)));
    }
  }
  for (const i of names.keys()) if (!used.has(i)) take([i], names[i]);
  return out.sort((a, b) => Math.min(...a.columns) - Math.min(...b.columns));
}

/** Scalars that a name with the first of their numbers begins: `a[1] a[2] ..` as many as there are, `v_0 v_1 v_2`. */
function numberedFrom(names: string[], i: number, at: Map<string, number>): number[] | null {
  const [, plain, open, first] = /^(.+?)(\[|_|\.| )([01])(?:\])?$/.exec(names[i]) ?? [];
  if (!plain) return null;
  const close = open === '[' ? ']' : '';
  if (first === '1' && at.has(`${plain}${open}0${close}`)) return null;
  const found: number[] = [];
  for (let n = Number(first); ; n++) {
    const next = at.get(`${plain}${open}${n}${close}`);
    if (next === undefined) break;
    found.push(next);
  }
  if (open === '[') return found.length > 1 ? found : null;
  return found.length === 3 && directed.test(plain) ? found : null;
}

/** Node orders of serendipity cells where vertical edges come before the upper ones. */
export const verticalFirst: Record<number, number[]> = {
  25: [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 16, 17, 18, 19, 12, 13, 14, 15],
  26: [0, 1, 2, 3, 4, 5, 6, 7, 8, 12, 13, 14, 9, 10, 11],
};

/** Brings the nodes of uniform cells into our order. */
export function reordered(connectivity: Uint32Array, order: number[] | undefined): Uint32Array {
  if (!order) return connectivity;
  const out = new Uint32Array(connectivity.length);
  const n = order.length;
  for (let i = 0; i + n <= connectivity.length; i += n)
    for (let k = 0; k < n; k++) out[i + k] = connectivity[i + order[k]];
  return out;
}
