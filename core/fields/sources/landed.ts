import { isLonePoints } from '../../model/run.ts';
import { madeWithShapes } from './made-with-shapes.ts';

/** What is known of faces that particles have landed on, by key. */
export const LANDED = { count: 'landed:count', density: 'landed:density' } as const;

/** How many particles have landed on each face, and how many by its area. */
export const landed = madeWithShapes({
  id: 'landed',
  prefix: 'landed',
  lacking: 'particles that could have landed',
  all: (run) =>
    run.parts.some(isLonePoints)
      ? {
          count: { name: 'particles landed' },
          // One grain on a face that is much smaller than the others is very many by its area.
          density: {
            name: 'deposits per area',
            unit: run.lengthUnit && `1/${run.lengthUnit}²`,
            hasExtremes: true,
          },
        }
      : null,
});
