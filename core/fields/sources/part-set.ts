import type { QuantitySource } from './quantity-source.ts';

/** Belonging to a part set of the files, 1 or 0 for each cell. */
export const partSet: QuantitySource = {
  prefixes: ['set'],
  usual: false,
  changes: false,
  offers: () => [],
  lacking: (name, _prefix, run) => (run.sets.some((s) => s.name === name) ? null : `part set "${name}"`),
  origin(_need, name, { run, part }) {
    const cells = run.sets.find((s) => s.name === name)?.parts.find((p) => p.part === part.name);
    return { kind: 'cells', cells: cells ? (cells.cells ?? 'all') : 'none' };
  },
};

/** Key of the quantity that is 1 inside a set of the files and 0 outside. */
export const setQuantity = (set: string): string => `set:${set}`;
