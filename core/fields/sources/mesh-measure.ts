import type { RunDescription, RunField } from '../../model/run.ts';
import { meshMeasure as measured, meshMeasures } from '../mesh-quality.ts';
import { madeField, type QuantitySource } from './quantity-source.ts';

const fieldOf = (run: RunDescription, { key, name }: { key: string; name: string }): RunField =>
  madeField(run, { key, name, location: 'cell', components: 1 });

/** Measures of the shape of cells, which every run has without a file saying so. */
export const meshMeasure: QuantitySource = {
  id: 'mesh measure',
  prefixes: ['mesh'],
  usual: false,
  changes: false,
  needsMesh: true,
  offers: (run) => meshMeasures.map((m) => fieldOf(run, m)),
  field(name, _prefix, run) {
    const found = meshMeasures.find((m) => m.key === `mesh:${name}`);
    return found ? fieldOf(run, found) : null;
  },
  lacking: (name) =>
    meshMeasures.some((m) => m.key === `mesh:${name}`) ? null : `measure "${name}" of meshes`,
  origin: ({ field }) => ({
    source: 'mesh measure',
    id: field,
    location: 'cell',
    components: 1,
    axial: false,
    arrays: [],
    of: [],
  }),
  compute: ({ id }, { mesh }) => measured(mesh, id),
};
