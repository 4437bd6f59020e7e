import { meshMeasures } from '../../measure/mesh-quality.ts';
import type { RunField } from '../../model/run.ts';
import type { QuantitySource } from './quantity-source.ts';

/** Measures of the shape of cells, which every run has without a file saying so. */
export const meshMeasure: QuantitySource = {
  prefixes: ['mesh'],
  usual: false,
  changes: false,
  offers: () =>
    meshMeasures.map(({ key, name, low, high }): RunField => {
      const bounds = { min: low ?? Infinity, max: high ?? -Infinity, sum: 0, count: 0, nanCount: 0 };
      return {
        key,
        name,
        location: 'cell',
        components: 1,
        unit: null,
        role: 'other',
        pair: null,
        perStep: [],
        overall: { components: [bounds], magnitude: null },
      };
    }),
  lacking: (name) =>
    meshMeasures.some((m) => m.key === `mesh:${name}`) ? null : `measure "${name}" of meshes`,
  origin: ({ field }) => ({ kind: 'measure', measure: field }),
};
