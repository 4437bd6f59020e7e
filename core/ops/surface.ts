import { setQuantity } from '../fields/sources/part-set.ts';
import { phrasesOf } from '../language/phrase.ts';
import { wholeNumber } from '../model/bounded-number.ts';
import { z } from '../model/schema.ts';
import type { Operation } from './chain/operation.ts';
import { smoothOuterFaces } from './kernels/quadratic-faces.ts';

export interface SurfaceOptions {
  /** Faces of quadratic cells are cut into 4^smooth flat pieces. */
  smooth: number;
  /** Faces between cells of different part sets are drawn too. */
  between: boolean;
  /** Names of the part sets of the run; settled when it runs. */
  sets: string[];
}

const p = phrasesOf<SurfaceOptions>();

/** The outer faces of volume cells, and surface, line and point cells as they are. */
export const surface: Operation<SurfaceOptions> = {
  id: 'surface',
  name: 'Surface',
  purpose: 'the outer faces',
  opening: 'Surface of ',
  joining: ', its surface',
  schema: z.object({
    smooth: wholeNumber().min(0).max(4).default(0),
    between: z.boolean().default(false),
    sets: z.array(z.string()).default([]),
  }),
  defaults: () => ({ smooth: 0, between: false, sets: [] }),
  phrase: p.row(
    p.unless('smooth', 0, p.text(' curved at level '), p.number('smooth')),
    p.flag('between', ' with the faces between part sets'),
  ),
  everyday: /^(?:a |the )?(?:skin|outside|outer surface|hull)\b/i,
  controls: [
    { kind: 'number', key: 'smooth', label: 'Curves of quadratic cells', whole: true, range: () => [0, 4] },
    { kind: 'tick', key: 'between', label: 'Faces between part sets' },
  ],
  traits: { plain: true, drawsCurves: () => ({ smooth: 2, between: false, sets: [] }) },
  scope: 'part',
  reads: 'step',
  gives: (dimension) => Math.min(2, dimension),
  needs: ({ between, sets }) => (between ? sets.map((s) => ({ field: setQuantity(s) })) : []),
  settle: (options, { sets }) => ({ ...options, sets: options.between ? [...sets] : [] }),
  run(input, { smooth, between, sets }) {
    let labels: Uint16Array | null = null;
    if (between) {
      labels = new Uint16Array(input.mesh.types.length);
      for (const [i, name] of sets.slice(0, 16).entries()) {
        const field = input.field({ field: setQuantity(name) });
        if (field) for (let c = 0; c < labels.length; c++) if (field.data[c] > 0) labels[c] |= 1 << i;
      }
    }
    return smoothOuterFaces(input.mesh, smooth, labels);
  },
};
