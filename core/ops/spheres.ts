import { phrasesOf } from '../language/phrase.ts';
import { boundedNumber } from '../model/bounded-number.ts';
import { boundsDiagonal, boundsSize } from '../model/mesh.ts';
import { z } from '../model/schema.ts';
import type { Operation, OperationSetting } from './chain/operation.ts';
import { pointsAlone } from './kernels/points-alone.ts';

export interface SpheresOptions {
  /** In the unit of length of the run. */
  radius: number;
}

const p = phrasesOf<SpheresOptions>();

/** Spheres where the points are: particles and atoms as bodies with a size, light and shadow. */
export const spheres: Operation<SpheresOptions> = {
  id: 'spheres',
  name: 'Spheres',
  purpose: 'points as bodies of a size',
  opening: 'Spheres of ',
  joining: ', as spheres',
  schema: z.object({ radius: boundedNumber().positive() }),
  defaults: (setting) => ({ radius: Number(usualRadius(setting).toPrecision(2)) }),
  phrase: p.row(p.text(' of radius '), p.number('radius', 'length')),
  everyday: /^(?:a |the )?(?:balls?|beads?|particles as bodies|atoms as bodies)\b/i,
  controls: [
    {
      kind: 'number',
      key: 'radius',
      label: 'Radius',
      unit: 'length',
      range: (_, { bounds }) => [boundsDiagonal(bounds) / 2000, boundsDiagonal(bounds) / 20],
    },
  ],
  traits: { showsValues: true, givesBodyTo: 'points' },
  scope: 'part',
  reads: 'step',
  gives: () => 0,
  run: ({ mesh }, { radius }) => ({ ...pointsAlone(mesh, 'points'), radius }),
};

/**
 * Atoms: two fifths of the way between neighbours if they were spread evenly over their box, so that those of a crystal
 * nearly touch. Particles, which stand free in something larger: grains. No specks and no boulders, where they are many or
 * few. Common practice, no source.
 */
export function usualRadius({ bounds, points }: Pick<OperationSetting, 'bounds' | 'points'>): number {
  const diagonal = boundsDiagonal(bounds) || 1;
  const extents = boundsSize(bounds).filter((e) => e > 1e-6 * diagonal);
  const spacing =
    (extents.reduce((a, b) => a * b, 1) / Math.max(1, points.count)) ** (1 / (extents.length || 1));
  const most = points.packed ? 0.02 : 0.0055;
  return Math.min(most * diagonal, Math.max(0.003 * diagonal, 0.4 * spacing));
}
