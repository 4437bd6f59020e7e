import { phrasesOf } from '../language/phrase.ts';
import { z } from '../model/schema.ts';
import type { Operation } from './chain/operation.ts';
import { edgeLines, faceEdges } from './kernels/face-edges.ts';

export interface EdgesOptions {
  /** Edges inside bodies too. */
  inner: boolean;
}

const p = phrasesOf<EdgesOptions>();

/** The edges of cells as lines: of a body those on its outer faces, or all. */
export const edges: Operation<EdgesOptions> = {
  id: 'edges',
  name: 'Edges',
  purpose: 'the mesh itself, as lines',
  opening: 'Edges of ',
  joining: ', its edges',
  schema: z.object({ inner: z.boolean().default(false) }),
  defaults: () => ({ inner: false }),
  phrase: p.flag('inner', ' with those inside', true, false),
  controls: [{ kind: 'tick', key: 'inner', label: 'Edges inside bodies too' }],
  scope: 'part',
  reads: 'step',
  gives: (dimension) => Math.min(1, dimension),
  run(input, { inner }) {
    const mesh = inner ? input.mesh : input.outer().mesh;
    return edgeLines(mesh, faceEdges(mesh, inner), () => true);
  },
};
