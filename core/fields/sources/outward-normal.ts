import type { RunDescription, RunField } from '../../model/run.ts';
import { outsideOf } from '../surfaces/outward-normals.ts';
import { besideId, neighbourMeshes } from './neighbours.ts';
import { madeField, type QuantitySource } from './quantity-source.ts';

const OUTWARD = 'normal';

const fieldOf = (run: RunDescription): RunField =>
  madeField(run, {
    key: `outward:${OUTWARD}`,
    name: 'outward normal',
    location: 'point',
    components: 3,
    unit: '',
  });

/** Where a body or surface looks, at its points; see `outsideOf`. */
export const outwardNormal: QuantitySource = {
  id: 'outward normal',
  prefixes: ['outward'],
  usual: false,
  changes: false,
  needsMesh: true,
  offers: (run) => (run.dimension >= 2 ? [fieldOf(run)] : []),
  field: (name, _prefix, run) => (name === OUTWARD && run.dimension >= 2 ? fieldOf(run) : null),
  lacking: (name, _prefix, { dimension }) =>
    name !== OUTWARD ? `direction "outward ${name}"` : dimension < 2 ? 'surface that looks outwards' : null,
  origin({ step }, _name, _prefix, at) {
    const flat = at.run.dimension === 2;
    const meshes = neighbourMeshes({ ...at, step: step ?? at.step });
    return {
      source: 'outward normal',
      id: `outward normal${flat ? ' of what is flat' : ''}${besideId(meshes)}`,
      location: 'point',
      components: 3,
      axial: false,
      arrays: [],
      of: [],
      meshes,
      options: flat,
    };
  },
  compute: ({ options }, { mesh, meshes }) => outsideOf(mesh, options as boolean, meshes).normals,
};
