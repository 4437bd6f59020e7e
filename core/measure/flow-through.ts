import { cellsToPoints } from '../fields/averages.ts';
import { ownName } from '../fields/quantity-sources.ts';
import { phrasesOf } from '../language/phrase.ts';
import { boundsCentre } from '../model/mesh.ts';
import { replayAll } from '../model/recipe.ts';
import { z } from '../model/schema.ts';
import { unitProduct } from '../model/unit-products.ts';
import type { Measure } from './measure.ts';
import { needOf, unitOf } from './measured-quantity.ts';
import { weightsOf } from './summed.ts';

export interface FlowThroughOptions {
  field: string;
  component: 'magnitude';
  /** The direction that counts as forward; null for outwards, or as faces look. */
  along: [number, number, number] | null;
}

const p = phrasesOf<FlowThroughOptions>();

/** How much of a vector goes across surfaces: of a velocity the volume in a time. */
export const flowThrough: Measure<FlowThroughOptions, { through: number }> = {
  id: 'flow through',
  name: 'Flow through',
  purpose: 'what goes across a section or a surface',
  schema: z.object({
    field: z.string(),
    component: z.literal('magnitude').default('magnitude'),
    along: z.tuple([z.number(), z.number(), z.number()]).nullable().default(null),
  }),
  phrase: p.row(p.text('flow of '), p.vectorQuantity('field', 'component'), p.text(' through ')),
  asks: 'something',
  example({ fields, quantities, bounds, dimension }) {
    const velocity = quantities.find((q) => q.role === 'velocity' && q.component === 'magnitude');
    const name = fields.find((f) => f.key === velocity?.field)?.name;
    const x = Number(boundsCentre(bounds)[0].toPrecision(3));
    return name && dimension === 3 ? `flow of ${name} through section of everything at x = ${x}` : null;
  },
  positive: ({ along }) => along,
  looksAt: (input) => input.outer(),
  needs: (o) => needOf({ ...o, whole: true }),
  facing: (o, along) => ({ ...o, along: along as FlowThroughOptions['along'] }),
  ofPart(input, o) {
    const faces = input.outer();
    const field = faces.field({ field: o.field });
    if (!field) return { lacking: ownName(o.field) };
    const { mesh } = faces;
    if (mesh.types.length === 0) return { through: 0 };
    if (faces.dimension !== 2) return { lacking: 'faces to go through: they are points or lines' };
    const { components } = field;
    const data =
      field.location === 'cell' ? replayAll(cellsToPoints(mesh), field.data, components) : field.data;
    const { across } = weightsOf(mesh, 2);
    let through = 0;
    for (let c = 0; c < mesh.types.length; c++) {
      let own = 0;
      let facing = 0;
      for (let e = mesh.offsets[c]; e < mesh.offsets[c + 1]; e++)
        for (let k = 0; k < 3; k++) {
          const a = across![3 * e + k];
          if (k < components) own += a * data[components * mesh.connectivity[e] + k];
          if (o.along) facing += a * o.along[k];
        }
      // Faces of a section may be walked either way round.
      through += facing < 0 ? -own : own;
    }
    return { through };
  },
  join: (a, b) => ({ through: a.through + b.through }),
  answer: ({ through: value }) => ({ value }),
  unit: (o, s) => unitProduct([unitOf({ ...o, whole: true }, s), 1], [s.lengthUnit, 2]),
};
