import { nameWithoutUnit } from '../../model/quantity.ts';
import type { RunDescription, RunField } from '../../model/run.ts';
import { madeField, type QuantitySource } from './quantity-source.ts';

/** Which step is looked at, of so many, at one of them; null where there is none. */
const steps: Record<string, { says: string; step(now: number, count: number): number | null }> = {
  first: { says: 'at the first step', step: () => 0 },
  last: { says: 'at the last step', step: (_, count) => count - 1 },
  previous: { says: 'one step before', step: (now) => (now > 0 ? now - 1 : null) },
};

function fieldOf(run: RunDescription, prefix: string, inner: RunField | null): RunField | null {
  if (!inner) return null;
  const { location, components, unit } = inner;
  const name = `${nameWithoutUnit(inner.name)} ${steps[prefix].says}`;
  return madeField(run, { key: `${prefix}:${inner.key}`, name, location, components, unit });
}

/** Quantities as they are at another step, for differences: `first:point:temperature`. The mesh must be the same there. */
export const atStep: QuantitySource = {
  id: 'at step',
  prefixes: Object.keys(steps),
  usual: false,
  changes: true,
  needsMesh: false,
  offers: () => [],
  field: (name, prefix, run, find) => fieldOf(run, prefix, find.field(name, run)),
  lacking: (name, _prefix, run, find) => find.lacking(name, run),
  origin({ step }, name, prefix, at, find) {
    const now = step ?? at.step;
    const wanted = steps[prefix].step(now, at.run.steps.length);
    const inner = wanted === null ? null : find.origin({ field: name, step: wanted }, at);
    if (!inner) return null;
    const { id, location, components, axial } = inner;
    return { source: 'at step', id, location, components, axial, arrays: [], of: [inner] };
  },
  compute: (_origin, { of: [{ data }] }) => data,
};
