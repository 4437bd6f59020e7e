import type { RunDescription, RunField } from '../../model/run.ts';
import { madeField, type QuantitySource } from './quantity-source.ts';

interface MadeWithShapes {
  id: string;
  prefix: string;
  /** What a run must have for it, in words behind "the run has no". */
  lacking: string;
  /** The quantities by the end of their keys; null where the run lacks what they are made from. */
  all(run: RunDescription): Record<string, Partial<RunField> & { name: string }> | null;
}

/**
 * Numbers that operations make together with their shapes, one for each point. No part has them, so that their range is
 * known only of what is shown.
 */
export function madeWithShapes({ id, prefix, lacking, all }: MadeWithShapes): QuantitySource {
  const fieldOf = (name: string, run: RunDescription): RunField | null => {
    const known = all(run);
    return known && Object.hasOwn(known, name)
      ? madeField(run, { key: `${prefix}:${name}`, location: 'point', components: 1, ...known[name] })
      : null;
  };
  return {
    id,
    prefixes: [prefix],
    usual: false,
    changes: true,
    needsMesh: false,
    comesWithShapes: true,
    offers: (run) => Object.keys(all(run) ?? {}).flatMap((name) => fieldOf(name, run) ?? []),
    field: (name, _prefix, run) => fieldOf(name, run),
    lacking: (name, _prefix, run) => (fieldOf(name, run) ? null : lacking),
    origin: () => null,
    compute() {
      throw new Error('What comes with shapes is not computed of parts.');
    },
  };
}
