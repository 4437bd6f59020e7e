import { ownName } from '../fields/quantity-sources.ts';
import { phrasesOf } from '../language/phrase.ts';
import { quoteIfNeeded } from '../language/sentence.ts';
import { z } from '../model/schema.ts';
import { unitProduct } from '../model/unit-products.ts';
import { unitChange } from '../model/units.ts';
import type { Answer, Measure } from './measure.ts';
import { needOf, unitOf } from './measured-quantity.ts';
import { weightsOf } from './summed.ts';

type Vector = [number, number, number];

export interface ForceOptions {
  field: string;
  component: number;
  /** A traction along the faces, such as wall shear; empty for none. */
  shear: string;
  shearComponent: 'magnitude';
  /** The place the moment is taken about; null where none is asked for. */
  about: Vector | null;
  /** The direction of the part of the force that is asked for; null for all of it. */
  along: Vector | null;
  /** On what the flow pushes against, or on the flow itself: the two are equal and opposite. */
  on: 'body' | 'fluid';
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

/**
 * The force of a pressure, and of a shear along faces, on what a flow pushes against. A pressure pushes away from the flow:
 * out of a body of which it is the pressure, and against the faces of a surface, which look into the flow.
 */
export const force: Measure<ForceOptions, Pushed> = {
  id: 'force',
  name: 'Force',
  purpose: 'the force of a pressure, and its moment',
  schema: z.object({
    field: z.string(),
    component: z.number().int().default(0),
    shear: z.string().default(''),
    shearComponent: z.literal('magnitude').default('magnitude'),
    about: vector.nullable().default(null),
    along: vector.nullable().default(null),
    on: z.enum(['body', 'fluid']).default('body'),
  }),
  phrase: p.row(
    p.text('force from '),
    p.scalarQuantity('field', 'component'),
    p.unless('shear', '', p.text(' and '), p.vectorQuantity('shear', 'shearComponent')),
    p.text(' on '),
  ),
  clauses: p.row(
    p.unless('about', null, p.text(' about '), p.vector('about', 'length')),
    p.unless('along', null, p.text(' along '), p.oneOf(p.choice('along', DIRECTIONS), p.vector('along'))),
    p.oneOf(p.row(p.text(', on the fluid'), p.fixed('on', 'fluid')), p.fixed('on', 'body')),
  ),
  asks: 'something',
  example({ quantities, parts }) {
    const pressure = quantities.find((q) => q.role === 'pressure');
    return pressure
      ? `force from ${pressure.name} on ${parts.length === 1 ? 'everything' : quoteIfNeeded(parts.at(-1)!)}`
      : null;
  },
  isVector: ({ along }) => along === null,
  positive: ({ along }) => along,
  looksAt: (input) => input.outer(),
  needs: ({ field, shear }) => [
    { field },
    ...(shear ? needOf({ field: shear, component: 0, whole: true }) : []),
  ],
  ofPart(input, o) {
    const faces = input.outer();
    const pressure = faces.field({ field: o.field });
    if (!pressure) return { lacking: ownName(o.field) };
    if (pressure.components !== 1) return { lacking: `pressure: ${ownName(o.field)} is no single number` };
    const shear = o.shear ? faces.field({ field: o.shear }) : null;
    if (o.shear && !shear) return { lacking: ownName(o.shear) };
    const { mesh } = faces;
    const out: Pushed = { force: [0, 0, 0], moment: [0, 0, 0] };
    if (mesh.types.length === 0) return out;
    if (faces.dimension !== 2) return { lacking: 'faces to push on: they are points or lines' };
    const { across, nodes } = weightsOf(mesh, 2);
    const away = input.dimension === 3 ? 1 : -1;
    const sense = o.on === 'fluid' ? -1 : 1;
    const arm = new Float64Array(3);
    const push = new Float64Array(3);
    for (let c = 0; c < mesh.types.length; c++)
      for (let e = mesh.offsets[c]; e < mesh.offsets[c + 1]; e++) {
        const node = mesh.connectivity[e];
        const value = pressure.data[pressure.location === 'cell' ? c : node];
        for (let k = 0; k < 3; k++) {
          const along = shear ? shear.data[shear.components * (shear.location === 'cell' ? c : node) + k] : 0;
          push[k] = sense * (away * value * across![3 * e + k] + along * nodes[e]);
          arm[k] = mesh.points[3 * node + k] + input.origin[k] - (o.about?.[k] ?? 0);
        }
        // What has no value pushes nothing.
        if (push.some(Number.isNaN)) continue;
        for (let k = 0; k < 3; k++) {
          const [i, j] = [(k + 1) % 3, (k + 2) % 3];
          out.force[k] += push[k];
          out.moment[k] += arm[i] * push[j] - arm[j] * push[i];
        }
      }
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
    return { value, ...turned, ...noteOn(f, value) };
  },
  unit(o, s) {
    const product = unitProduct([unitOf({ ...o, whole: false }, s), 1], [s.lengthUnit, 2]);
    const change = product && unitChange(product, 'N');
    return change && change.factor === 1 ? 'N' : product;
  },
};

/** What is odd about the direction: hardly anything of the force is along it. */
function noteOn(f: readonly number[], value: number): { note?: string } {
  const all = Math.hypot(...f);
  if (!(all > 0) || Math.abs(value) >= HARDLY * all) return {};
  const most = f.reduce((best, v, k) => (Math.abs(v) > Math.abs(f[best]) ? k : best), 0);
  const share = Math.round((100 * Math.abs(f[most])) / all);
  return { note: `${share} % of this force is along ${f[most] < 0 ? '−' : '+'}${'xyz'[most]}` };
}
