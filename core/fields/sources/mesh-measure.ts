import type { RunField } from '../../model/run.ts';
import type { FieldStatistics } from '../../model/statistics.ts';
import { meshMeasures } from '../mesh-quality.ts';
import type { QuantitySource } from './quantity-source.ts';

/** Before it is asked for, and where there is nothing. */
const unknown: FieldStatistics = {
  components: [{ min: Infinity, max: -Infinity, sum: 0, count: 0, nanCount: 0 }],
  magnitude: null,
};

/** Measures of the shape of cells, which every run has without a file saying so. */
export const meshMeasure: QuantitySource = {
  prefixes: ['mesh'],
  usual: false,
  changes: false,
  offers: ({ measured }) =>
    meshMeasures.map(({ key, name }): RunField => {
      const range = Object.hasOwn(measured, key) ? measured[key] : null;
      return {
        key,
        name,
        location: 'cell',
        components: 1,
        unit: null,
        role: 'other',
        pair: null,
        perStep: range?.perStep ?? [],
        overall: range?.overall ?? unknown,
      };
    }),
  lacking: (name) =>
    meshMeasures.some((m) => m.key === `mesh:${name}`) ? null : `measure "${name}" of meshes`,
  origin: ({ field }) => ({ kind: 'measure', measure: field }),
};
