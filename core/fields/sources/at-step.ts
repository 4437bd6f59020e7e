import { nameWithoutUnit } from '../../model/quantity.ts';
import type { RunDescription, RunField } from '../../model/run.ts';
import { madeField, type QuantitySource } from './quantity-source.ts';

interface Looked {
  /** Key of the quantity. */
  key: string;
  says: string;
  /** Which step is looked at, of so many, at one of them; null where there is none. */
  step(now: number, count: number): number | null;
}

/** What a key looks at, by its prefix and the rest: `first:point:T`, `step:5:point:T`. */
function lookedAt(rest: string, prefix: string): Looked {
  if (prefix === 'first') return { key: rest, says: 'at the first step', step: () => 0 };
  if (prefix === 'last') return { key: rest, says: 'at the last step', step: (_, count) => count - 1 };
  if (prefix === 'previous')
    return { key: rest, says: 'one step before', step: (now) => (now > 0 ? now - 1 : null) };
  const colon = rest.indexOf(':');
  const index = Number(rest.slice(0, colon)) - 1;
  return {
    key: rest.slice(colon + 1),
    says: `at step ${index + 1}`,
    step: (_, count) => (index < count ? index : null),
  };
}

function fieldOf(
  run: RunDescription,
  prefix: string,
  says: string,
  inner: RunField | null,
  rest: string,
): RunField | null {
  if (!inner) return null;
  const { location, components, unit } = inner;
  const name = `${nameWithoutUnit(inner.name)} ${says}`;
  return madeField(run, { key: `${prefix}:${rest}`, name, location, components, unit });
}

/** Quantities as they are at another step, for differences: `first:point:temperature`, `step:5:point:temperature`. The mesh must be the same there. */
export const atStep: QuantitySource = {
  id: 'at step',
  prefixes: ['first', 'last', 'previous', 'step'],
  usual: false,
  changes: true,
  needsMesh: false,
  offers: () => [],
  field(rest, prefix, run, find) {
    const { key, says, step } = lookedAt(rest, prefix);
    const count = run.steps.length;
    return step(count, count) === null ? null : fieldOf(run, prefix, says, find.field(key, run), rest);
  },
  lacking(rest, prefix, run, find) {
    const { key, says, step } = lookedAt(rest, prefix);
    const count = run.steps.length;
    if (step(count, count) === null)
      return `quantity ${says}: it has ${count === 1 ? 'one step' : `${count} steps`}`;
    return find.lacking(key, run);
  },
  absent({ step }, rest, prefix, at, find) {
    const looked = lookedAt(rest, prefix);
    const wanted = looked.step(step ?? at.step, at.run.steps.length);
    if (wanted === null) return 'There is no step before the first one.';
    return find.absent({ field: looked.key, step: wanted }, at);
  },
  origin({ step }, rest, prefix, at, find) {
    const looked = lookedAt(rest, prefix);
    const wanted = looked.step(step ?? at.step, at.run.steps.length);
    const inner = wanted === null ? null : find.origin({ field: looked.key, step: wanted }, at);
    if (!inner) return null;
    const { id, location, components, axial } = inner;
    return { source: 'at step', id, location, components, axial, arrays: [], of: [inner] };
  },
  compute: (_origin, { of: [{ data }] }) => data,
};
