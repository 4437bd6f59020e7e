import { ownName } from '../fields/quantity-sources.ts';
import { type Phrase, phrasesOf } from '../language/phrase.ts';
import { readTensor, tensorName } from '../language/read-quantity.ts';
import { quoteIfNeeded, words } from '../language/sentence.ts';
import type { MeshField } from '../model/field.ts';
import { z } from '../model/schema.ts';
import { unitProduct } from '../model/unit-products.ts';
import { unitChange } from '../model/units.ts';
import type { OperationInput } from '../ops/chain/operation.ts';
import { type Answer, isLacking, type Lacking, type Measure } from './measure.ts';
import { needOf, unitOf } from './measured-quantity.ts';
import { eachPlace, type Place } from './places.ts';
import { usedPoints } from './summed.ts';

type Vector = [number, number, number];

export interface ForceOptions {
  /** A pressure on faces, a stress whose part across faces counts, a force for each area of faces, or forces at points. */
  of: 'pressure' | 'stress' | 'traction' | 'nodal';
  field: string;
  component: number | 'magnitude';
  /** A traction along the faces, such as wall shear; empty for none. */
  shear: string;
  shearComponent: 'magnitude';
  /** The place the moment is taken about; null where none is asked for. */
  about: Vector | null;
  /** The direction of the part of the force that is asked for; null for all of it. */
  along: Vector | null;
  /** On what the flow pushes against, or on the flow itself: the two are equal and opposite. */
  on: 'body' | 'fluid';
  /** Of a section the way it looks; null where faces look outwards or as they are. */
  facing: Vector | null;
}

/** Force, and moment about the place, in the coordinates of the files. */
interface Pushed {
  force: number[];
  moment: number[];
}

const p = phrasesOf<ForceOptions>();

const vector = z.tuple([z.number(), z.number(), z.number()]);

const DIRECTIONS = (['x', 'y', 'z'] as const).flatMap((text, k) => {
  const axis = (sign: number): Vector => [0, 1, 2].map((i) => (i === k ? sign : 0)) as Vector;
  return [
    { text: `+${text}`, value: axis(1) },
    { text: `-${text}`, value: axis(-1) },
    { text: `−${text}`, value: axis(-1) },
    { text, value: axis(1) },
  ];
});

/** Less of a force than this along the direction that is asked for looks like a wrong choice. Common practice, no source. */
const HARDLY = 0.1;

/** A tensor by its own name, without a component. */
const stress: Phrase<ForceOptions> = {
  say: ({ of, field }, s) => (of === 'stress' ? [words(tensorName(field, s) ?? `"${field}"`)] : null),
  read(r, into, s) {
    const found = readTensor(r, s);
    if (found === null) return false;
    into.field = found;
    into.of = 'stress';
    into.component = 0;
    return true;
  },
};

/**
 * The force of a pressure, and of a shear along faces, on what a flow pushes against. A pressure pushes away from the flow:
 * out of a body of which it is the pressure, and against the faces of a surface, which look into the flow. A stress acts on a body
 * from outside; in a section it is what the side ahead of it does to the side behind. Forces at points are added up.
 */
export const force: Measure<ForceOptions, Pushed> = {
  id: 'force',
  name: 'Force',
  purpose: 'the force of a pressure, and its moment',
  schema: z.object({
    of: z.enum(['pressure', 'stress', 'traction', 'nodal']).default('pressure'),
    field: z.string(),
    component: z.union([z.number().int(), z.literal('magnitude')]).default(0),
    shear: z.string().default(''),
    shearComponent: z.literal('magnitude').default('magnitude'),
    about: vector.nullable().default(null),
    along: vector.nullable().default(null),
    on: z.enum(['body', 'fluid']).default('body'),
    facing: vector.nullable().default(null),
  }),
  phrase: p.row(
    p.text('force from '),
    p.oneOf(
      p.row(p.text('nodal '), p.fixed('of', 'nodal'), p.vectorQuantity('field', 'component')),
      p.row(p.text('traction '), p.fixed('of', 'traction'), p.vectorQuantity('field', 'component')),
      stress,
      p.row(
        p.fixed('of', 'pressure'),
        p.scalarQuantity('field', 'component'),
        p.unless('shear', '', p.text(' and '), p.vectorQuantity('shear', 'shearComponent')),
      ),
    ),
    p.text(' on '),
  ),
  clauses: p.row(
    p.unless('about', null, p.text(' about '), p.vector('about', 'length')),
    p.unless('along', null, p.text(' along '), p.oneOf(p.choice('along', DIRECTIONS), p.vector('along'))),
    p.oneOf(
      p.row(p.text(', on the fluid'), p.fixed('on', 'fluid')),
      p.row(p.text(', inwards'), p.fixed('on', 'fluid')),
      p.fixed('on', 'body'),
    ),
  ),
  asks: 'something',
  example({ quantities, parts, bounds }) {
    const pressure = quantities.find((q) => q.role === 'pressure');
    const stress = quantities.find((q) => q.role === 'stress' && q.component === 0 && q.components >= 6);
    const name = stress && tensorName(stress.field, { lengthUnit: null, quantities });
    if (!pressure && name) {
      const x = Number(((bounds[0] + bounds[1]) / 2).toPrecision(3));
      return `force from ${name} on section of everything at x = ${x}`;
    }
    return pressure
      ? `force from ${pressure.name} on ${parts.length === 1 ? 'everything' : quoteIfNeeded(parts.at(-1)!)}`
      : null;
  },
  isVector: ({ along }) => along === null,
  positive: ({ along }) => along,
  looksAt: (input, { of }) => (of === 'nodal' ? input : input.outer()),
  facing: (o, along) => (o.of === 'stress' ? { ...o, facing: along as Vector | null } : o),
  needs: ({ field, shear }) => [
    { field },
    ...(shear ? needOf({ field: shear, component: 0, whole: true }) : []),
  ],
  ofPart(input, o) {
    const faces = o.of === 'nodal' ? input : input.outer();
    const field = faces.field({ field: o.field });
    if (!field) return { lacking: ownName(o.field) };
    if (o.of === 'pressure' && field.components !== 1)
      return { lacking: `pressure: ${ownName(o.field)} is no single number` };
    const { force: sums, moment, add } = summing(o);
    const out: Pushed = { force: sums, moment };
    if (faces.mesh.types.length === 0) return out;
    if (o.of === 'nodal') {
      addNodal(faces, field, add);
      return out;
    }
    if (faces.dimension !== 2) return { lacking: 'faces to push on: they are points or lines' };
    const push = pushing(faces, field, o, input.dimension === 3);
    if (isLacking(push)) return push;
    eachPlace(faces, (place) => add(push(place), place.where()));
    return out;
  },
  join: (a, b) => ({
    force: a.force.map((v, k) => v + b.force[k]),
    moment: a.moment.map((v, k) => v + b.moment[k]),
  }),
  answer({ force: f, moment }, { along, about }): Answer {
    const turned = about ? { moment } : {};
    if (!along) return { value: f, ...turned };
    const length = Math.hypot(...along) || 1;
    const value = f.reduce((sum, v, k) => sum + (v * along[k]) / length, 0);
    return { value, whole: f, ...turned, ...noteOn(f, value) };
  },
  unit(o, s) {
    const own = unitOf({ ...o, whole: false }, s);
    const product = o.of === 'nodal' ? own : unitProduct([own, 1], [s.lengthUnit, 2]);
    const change = product && unitChange(product, 'N');
    return change && change.factor === 1 ? 'N' : product;
  },
};

/** Adds up forces and their moments about the place that is asked for; what has no value pushes nothing. */
function summing({ about, on }: ForceOptions) {
  const sense = on === 'fluid' ? -1 : 1;
  const force = [0, 0, 0];
  const moment = [0, 0, 0];
  const add = (push: ArrayLike<number>, at: ArrayLike<number>): void => {
    if (Number.isNaN(push[0] + push[1] + push[2])) return;
    for (let k = 0; k < 3; k++) {
      const [i, j] = [(k + 1) % 3, (k + 2) % 3];
      force[k] += sense * push[k];
      moment[k] += sense * ((at[i] - (about?.[i] ?? 0)) * push[j] - (at[j] - (about?.[j] ?? 0)) * push[i]);
    }
  };
  return { force, moment, add };
}

/** Every point that a cell uses, once. */
function addNodal(
  { mesh, origin }: OperationInput,
  { data, components, location }: MeshField,
  add: (push: ArrayLike<number>, at: ArrayLike<number>) => void,
): void {
  if (location === 'cell') return;
  const { points } = mesh;
  const push = new Float64Array(3);
  for (const node of usedPoints(mesh)) {
    for (let k = 0; k < Math.min(3, components); k++) push[k] = data[components * node + k];
    add(
      push,
      [0, 1, 2].map((k) => points[3 * node + k] + origin[k]),
    );
  }
}

/** Which component of a tensor stands where, row by row. */
const ROWS: Record<number, readonly number[]> = {
  6: [0, 3, 5, 3, 1, 4, 5, 4, 2],
  9: [0, 1, 2, 3, 4, 5, 6, 7, 8],
};

/** The force at each place of faces. */
function pushing(
  faces: OperationInput,
  field: MeshField,
  o: ForceOptions,
  ofBody: boolean,
): ((place: Place) => Float64Array) | Lacking {
  const { components } = field;
  const all = { field: o.field, component: 'magnitude' as const, whole: true };
  const value = new Float64Array(Math.max(3, components));
  const push = new Float64Array(3);
  if (o.of === 'traction')
    return (place) => {
      place.measure(all, field, value);
      for (let k = 0; k < 3; k++) push[k] = value[k] * place.size;
      return push;
    };
  if (o.of === 'stress') {
    const rows = ROWS[components];
    if (!rows) return { lacking: `stress: ${ownName(o.field)} is no tensor` };
    return (place) => {
      const { across } = place;
      place.measure(all, field, value);
      // Faces of a section may be walked either way round.
      const looks = o.facing ? across.reduce((sum, v, k) => sum + v * o.facing![k], 0) : 1;
      const sense = looks < 0 ? -1 : 1;
      for (let r = 0; r < 3; r++) {
        push[r] = 0;
        for (let c = 0; c < 3; c++) push[r] += sense * value[rows[3 * r + c]] * across[c];
      }
      return push;
    };
  }
  const shear = o.shear ? faces.field({ field: o.shear }) : null;
  if (o.shear && !shear) return { lacking: ownName(o.shear) };
  const away = ofBody ? 1 : -1;
  const along = new Float64Array(Math.max(3, shear?.components ?? 0));
  return (place) => {
    place.measure({ ...all, whole: false, component: 0 }, field, value);
    if (shear) place.measure({ ...all, field: o.shear }, shear, along);
    for (let k = 0; k < 3; k++) push[k] = away * value[0] * place.across[k] + along[k] * place.size;
    return push;
  };
}

/** The axis that most of a vector is along, where hardly anything of it is in a part of it; null where that is a good deal. */
export function largestAxis(whole: readonly number[], part: number): number | null {
  const all = Math.hypot(...whole);
  if (!(all > 0) || Math.abs(part) >= HARDLY * all) return null;
  return whole.reduce((best, v, k) => (Math.abs(v) > Math.abs(whole[best]) ? k : best), 0);
}

/** What is odd about the direction: hardly anything of the force is along it. */
function noteOn(f: readonly number[], value: number): { note?: string } {
  const most = largestAxis(f, value);
  if (most === null) return {};
  const all = Math.hypot(...f);
  const share = Math.round((100 * Math.abs(f[most])) / all);
  return { note: `${share} % of this force is along ${f[most] < 0 ? '−' : '+'}${'xyz'[most]}` };
}
