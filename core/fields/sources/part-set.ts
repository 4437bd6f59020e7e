import { madeField, type QuantitySource } from './quantity-source.ts';

/** Which cells of a part belong to a set: all, none, or those of the stored array. */
type Cells = 'all' | 'none' | 'listed';

/** Belonging to a part set of the files, 1 or 0 for each cell. */
export const partSet: QuantitySource = {
  id: 'part set',
  prefixes: ['set'],
  usual: false,
  changes: false,
  needsMesh: true,
  offers: () => [],
  field: (name, _prefix, run) =>
    run.sets.some((s) => s.name === name)
      ? madeField(run, { key: setQuantity(name), name, location: 'cell', components: 1 })
      : null,
  lacking: (name, _prefix, run) => (run.sets.some((s) => s.name === name) ? null : `part set "${name}"`),
  origin(_need, name, _prefix, { run, part }) {
    const found = run.sets.find((s) => s.name === name)?.parts.find((p) => p.part === part.name);
    const cells: Cells = !found ? 'none' : found.cells ? 'listed' : 'all';
    const id = `in ${found?.cells?.hash ?? cells}`;
    const arrays = found?.cells ? [found.cells] : [];
    return {
      source: 'part set',
      id,
      location: 'cell',
      components: 1,
      axial: false,
      arrays,
      of: [],
      options: cells,
    };
  },
  compute({ options }, { mesh, arrays: [listed] }) {
    const inside = new Uint8Array(mesh.types.length);
    if (options === 'all') inside.fill(1);
    else if (options === 'listed') for (let i = 0; i < listed.length; i++) inside[listed[i]] = 1;
    return inside;
  },
};

/** Key of the quantity that is 1 inside a set of the files and 0 outside. */
export const setQuantity = (set: string): string => `set:${set}`;
