import { arraysOfMesh } from '../../model/run.ts';
import { NearestFace } from '../surfaces/nearest-face.ts';
import { outerFaces } from '../surfaces/outer-faces.ts';
import { madeField, type QuantitySource } from './quantity-source.ts';

/** How far each point is from the outside of a part, and from its lines and points: `distance:tins`. */
export const distance: QuantitySource = {
  id: 'distance',
  prefixes: ['distance'],
  usual: false,
  changes: true,
  needsMesh: true,
  offers: () => [],
  field(name, prefix, run) {
    if (!run.parts.some((p) => p.name === name)) return null;
    return madeField(run, {
      key: `${prefix}:${name}`,
      name: `distance to ${name}`,
      location: 'point',
      components: 1,
      unit: run.lengthUnit,
    });
  },
  lacking: (name, _prefix, run) => (run.parts.some((p) => p.name === name) ? null : `part "${name}"`),
  origin({ step }, name, _prefix, { run, step: now }) {
    const part = run.parts.find((p) => p.name === name);
    const state = part?.steps[step ?? now];
    if (!part || !state) return null;
    const mesh = part.meshes[state.mesh];
    return {
      source: 'distance',
      id: `distance to ${arraysOfMesh(mesh)
        .map((a) => a.hash)
        .join()}`,
      location: 'point',
      components: 1,
      axial: false,
      arrays: [],
      of: [],
      meshes: [mesh],
    };
  },
  compute(_origin, { mesh: { points }, meshes: [other] }) {
    const nearest = new NearestFace(outerFaces(other).mesh, Infinity, true);
    const out = new Float32Array(points.length / 3);
    for (let i = 0; i < out.length; i++) {
      nearest.find(points[3 * i], points[3 * i + 1], points[3 * i + 2]);
      out[i] = Number.isFinite(nearest.distance) ? nearest.distance : Number.NaN;
    }
    return out;
  },
};
