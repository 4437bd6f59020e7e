import { phrasesOf } from '../language/phrase.ts';
import { boundedNumber } from '../model/bounded-number.ts';
import { POLYHEDRON } from '../model/cell-types.ts';
import { cellCount } from '../model/mesh.ts';
import { copyOf, identityGather } from '../model/recipe.ts';
import { z } from '../model/schema.ts';
import type { Operation } from './chain/operation.ts';

export interface ShrinkOptions {
  /** Size of the cells that is left, in per cent. */
  size: number;
}

const p = phrasesOf<ShrinkOptions>();

/** Every cell drawn towards its middle, so that one sees between them. */
export const shrink: Operation<ShrinkOptions> = {
  id: 'shrink',
  name: 'Shrunk cells',
  purpose: 'cells apart, to look into a mesh',
  opening: 'Shrunk cells of ',
  joining: ', its cells shrunk',
  schema: z.object({ size: boundedNumber().min(1).max(100).default(75) }),
  defaults: () => ({ size: 75 }),
  phrase: p.row(p.text(' to '), p.number('size', 'percent')),
  controls: [
    { kind: 'number', key: 'size', label: 'To', called: 'size', unit: 'percent', range: () => [5, 100] },
  ],
  scope: 'part',
  reads: 'step',
  gives: (dimension) => dimension,
  run({ mesh }, { size }) {
    const { points: from, offsets, connectivity, types, polyhedra } = mesh;
    const keep = size / 100;
    const points = new Float32Array(3 * connectivity.length);
    const nodes = Uint32Array.from({ length: connectivity.length }, (_, i) => i);
    for (let c = 0; c < cellCount(mesh); c++) {
      const n = offsets[c + 1] - offsets[c];
      for (let k = 0; k < 3; k++) {
        let middle = 0;
        for (let i = offsets[c]; i < offsets[c + 1]; i++) middle += from[3 * connectivity[i] + k] / n;
        for (let i = offsets[c]; i < offsets[c + 1]; i++)
          points[3 * i + k] = middle + keep * (from[3 * connectivity[i] + k] - middle);
      }
    }
    let own: Uint32Array | null = null;
    if (polyhedra) {
      own = polyhedra.faces.slice();
      for (let c = 0; c < types.length; c++) {
        if (types[c] !== POLYHEDRON) continue;
        const place = new Map<number, number>();
        for (let i = offsets[c]; i < offsets[c + 1]; i++) place.set(connectivity[i], i);
        for (let at = polyhedra.starts[c]; at < polyhedra.starts[c + 1]; ) {
          const n = own[at++];
          for (let k = 0; k < n; k++, at++) own[at] = place.get(own[at])!;
        }
      }
    }
    return {
      mesh: {
        points,
        types,
        offsets,
        connectivity: nodes,
        polyhedra: own ? { faces: own, starts: polyhedra!.starts } : null,
      },
      recipe: { points: copyOf(connectivity), cells: identityGather(cellCount(mesh)) },
    };
  },
};
