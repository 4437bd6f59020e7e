import { phrasesOf } from '../language/phrase.ts';
import { boundedNumber, wholeNumber } from '../model/bounded-number.ts';
import { boundsDiagonal } from '../model/mesh.ts';
import { z } from '../model/schema.ts';
import { unit, type Vector } from '../model/vectors.ts';
import type { Operation } from './chain/operation.ts';
import { boundsSizes, normalSchema } from './kernels/planes.ts';
import { sweep, sweptOuter, type Way } from './kernels/sweep.ts';

export interface ExtrudeOptions {
  along: Vector;
  length: number;
  /** Cells one behind the other. */
  layers: number;
}

const p = phrasesOf<ExtrudeOptions>();
const same = [1, 0, 0, 0, 1, 0, 0, 0, 1];

/** A flat run pulled to a body of the same thickness everywhere. */
export const extrude: Operation<ExtrudeOptions> = {
  id: 'extrude',
  name: 'Extrude',
  purpose: 'a flat run pulled to a body',
  opening: 'Extrude of ',
  joining: ', extruded',
  schema: z.object({
    along: normalSchema,
    length: boundedNumber(),
    layers: wholeNumber().min(1).max(500).default(1),
  }),
  defaults({ bounds }) {
    const size = boundsSizes(bounds);
    const thin = size.indexOf(Math.min(...size));
    return {
      along: [0, 1, 2].map((k) => Number(k === thin)) as Vector,
      length: Number((boundsDiagonal(bounds) / 4).toPrecision(2)),
      layers: 1,
    };
  },
  phrase: p.row(
    p.text(' by '),
    p.number('length', 'length'),
    p.text(' along '),
    p.direction('along'),
    p.unless('layers', 1, p.text(' in '), p.number('layers'), p.text(' layers')),
  ),
  controls: [
    {
      kind: 'number',
      key: 'length',
      label: 'By',
      called: 'length',
      unit: 'length',
      range: (_, { bounds }) => [-boundsDiagonal(bounds), boundsDiagonal(bounds)],
    },
    { kind: 'direction', key: 'along', label: 'Along' },
    { kind: 'number', key: 'layers', label: 'Layers', whole: true, range: () => [1, 40] },
  ],
  scope: 'part',
  reads: 'step',
  gives: (dimension) => Math.min(3, dimension + 1),
  fits: ({ dimension }) => dimension < 3,
  run: (input, options) => sweep(input.mesh, straight(options)),
  outer: (input, options) => (input.dimension === 2 ? sweptOuter(input, straight(options)) : null),
};

function straight({ along, length, layers }: ExtrudeOptions): Way {
  const n = unit(along);
  const at = (k: number) => ({ turn: same, shift: n.map((v) => (v * length * k) / layers) });
  return {
    stations: Array.from({ length: layers + 1 }, (_, k) => at(k)),
    middles: Array.from({ length: layers }, (_, k) => at(k + 0.5)),
    closed: false,
    stays: () => false,
  };
}
