import { phrasesOf } from '../language/phrase.ts';
import { boundedNumber } from '../model/bounded-number.ts';
import { polygonNormals } from '../model/mark-geometry.ts';
import { z } from '../model/schema.ts';
import type { Operation } from './chain/operation.ts';
import { edgeLines, faceEdges } from './kernels/face-edges.ts';

export interface CreaseOptions {
  /** Faces that meet at a sharper angle have a line between them, in degrees. */
  angle: number;
  /** Open borders of surfaces too. */
  borders: boolean;
}

const p = phrasesOf<CreaseOptions>();

/** The lines a draughtsman would draw: sharp edges and open borders. */
export const creaseLines: Operation<CreaseOptions> = {
  id: 'crease-lines',
  name: 'Crease lines',
  purpose: 'sharp edges and open borders',
  opening: 'Crease lines of ',
  joining: ', its crease lines',
  schema: z.object({
    angle: boundedNumber().min(0).max(180).default(35),
    borders: z.boolean().default(true),
  }),
  defaults: () => ({ angle: 35, borders: true }),
  phrase: p.row(
    p.text(' beyond '),
    p.number('angle', 'angle'),
    p.flag('borders', ' without borders', false, true),
  ),
  controls: [
    { kind: 'number', key: 'angle', label: 'Sharper than', unit: 'angle', range: () => [0, 120] },
    { kind: 'tick', key: 'borders', label: 'Open borders' },
  ],
  scope: 'part',
  reads: 'step',
  gives: (dimension) => Math.min(1, dimension),
  on: 'faces',
  run(input, { angle, borders }) {
    const { mesh } = input;
    const edges = faceEdges(mesh);
    const normals = polygonNormals(mesh);
    const least = Math.cos((angle * Math.PI) / 180);
    return edgeLines(mesh, edges, (e) => {
      if (edges.uses[e] === 1) return borders;
      if (edges.uses[e] !== 2) return true;
      const [a, b] = [3 * edges.first[e], 3 * edges.second[e]];
      const cosine =
        normals[a] * normals[b] + normals[a + 1] * normals[b + 1] + normals[a + 2] * normals[b + 2];
      // Neighbours may walk in opposite directions in surfaces from files.
      return Math.abs(cosine) < least || (cosine < -0.999 && angle < 179);
    });
  },
};
