import { type Phrase, phrasesOf } from '../language/phrase.ts';
import { boundsCentre } from '../model/mesh.ts';
import type { Quantity } from '../model/quantity.ts';
import { z } from '../model/schema.ts';
import { unitProduct } from '../model/unit-products.ts';
import { shortUnit } from '../model/units.ts';
import { isLacking, type Measure } from './measure.ts';
import { needOf, unitOf } from './measured-quantity.ts';
import { eachPlace } from './places.ts';
import {
  byDensity,
  flowWeigher,
  type Weighting,
  weigher,
  weightedBy,
  weightingShape,
  weightNeeds,
  weightUnit,
} from './weighting.ts';

export interface FlowThroughOptions extends Weighting {
  field: string;
  component: 'magnitude';
  /** The direction that counts as forward; null for outwards, or as faces look. */
  along: [number, number, number] | null;
}

const p = phrasesOf<FlowThroughOptions>();

/** `mass flow` alone is that of the velocity of the run. */
const ofVelocity: Phrase<FlowThroughOptions> = {
  say: () => null,
  read(r, into, { quantities }) {
    const velocity = quantities.find((q: Quantity) => q.role === 'velocity' && q.component === 'magnitude');
    if (!velocity) return r.miss('of');
    into.field = velocity.field;
    into.component = 'magnitude';
    return true;
  },
};

/** How much of a vector goes across surfaces: of a velocity the volume in a time, of one that is weighted by the density the mass. */
export const flowThrough: Measure<FlowThroughOptions, { through: number }> = {
  id: 'flow through',
  name: 'Flow through',
  purpose: 'what goes across a section or a surface',
  schema: z.object({
    field: z.string(),
    component: z.literal('magnitude').default('magnitude'),
    ...weightingShape,
    along: z.tuple([z.number(), z.number(), z.number()]).nullable().default(null),
  }),
  phrase: p.row(
    p.oneOf(
      p.row(
        p.text('mass flow'),
        byDensity('“flow of (1.2 kg/m³ * velocity) through …”, with the density it has'),
        p.oneOf(p.row(p.text(' of '), p.vectorQuantity('field', 'component')), ofVelocity),
      ),
      p.row(p.text('flow of '), p.vectorQuantity('field', 'component'), weightedBy()),
    ),
    p.text(' through '),
  ),
  asks: 'something',
  example({ fields, quantities, bounds, dimension }) {
    const velocity = quantities.find((q) => q.role === 'velocity' && q.component === 'magnitude');
    const name = fields.find((f) => f.key === velocity?.field)?.name;
    const x = Number(boundsCentre(bounds)[0].toPrecision(3));
    return name && dimension === 3 ? `flow of ${name} through section of everything at x = ${x}` : null;
  },
  positive: ({ along }) => along,
  looksAt: (input) => input.outer(),
  needs: (o) => [...needOf({ ...o, whole: true }), ...weightNeeds(o)],
  facing: (o, along) => ({ ...o, along: along as FlowThroughOptions['along'] }),
  ofPart(input, o) {
    const faces = input.outer();
    const flowing = flowWeigher(faces, o.field, o.along);
    if (isLacking(flowing)) return flowing;
    const weighed = weigher(faces, o);
    if (isLacking(weighed)) return weighed;
    let through = 0;
    eachPlace(faces, (place) => {
      through += flowing(place) * weighed(place);
    });
    return { through };
  },
  join: (a, b) => ({ through: a.through + b.through }),
  answer: ({ through: value }) => ({ value }),
  unit(o, s) {
    const unit = unitProduct([unitOf({ ...o, whole: true }, s), 1], [weightUnit(o, s), 1], [s.lengthUnit, 2]);
    return unit && shortUnit(unit);
  },
};
