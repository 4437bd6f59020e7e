import { isAxial } from '../../model/roles.ts';
import { fieldByKey } from '../../model/run.ts';
import type { QuantitySource } from './quantity-source.ts';

/** Fields of the files. */
export const stored: QuantitySource = {
  id: 'stored',
  prefixes: ['point', 'cell'],
  usual: true,
  changes: true,
  betweenSteps: true,
  needsMesh: false,
  offers: () => [],
  field: (name, prefix, run) => fieldByKey(run, `${prefix}:${name}`),
  lacking: (name, prefix, run) => (fieldByKey(run, `${prefix}:${name}`) ? null : `${prefix} field "${name}"`),
  origin({ field: key, step }, _name, _prefix, { run, part, step: now }) {
    const field = fieldByKey(run, key);
    const shown = part.steps[now];
    const state = part.steps[Math.min(step ?? now, run.steps.length - 1)];
    const array = state?.fields[key];
    if (!field || !array || !shown) return null;
    // A field of another step fits only the same mesh.
    const points = (mesh: number): number => part.meshes[mesh].pointCount;
    if (state.mesh !== shown.mesh && points(state.mesh) !== points(shown.mesh)) return null;
    const { location, components, name } = field;
    const axial = isAxial(name, components);
    const id = `${array.hash}/${location}${components}${axial}`;
    return { source: 'stored', id, location, components, axial, arrays: [array], of: [] };
  },
  compute: (_origin, { arrays: [values] }) => values,
};
