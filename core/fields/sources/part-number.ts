import type { RunDescription, RunField } from '../../model/run.ts';
import { madeField, type QuantitySource } from './quantity-source.ts';

const NAME = 'number';

/** Key of the quantity. */
export const PART_NUMBER = `part:${NAME}`;

function fieldOf(run: RunDescription): RunField | null {
  const parts = run.parts.filter((p) => p.kind !== 'picture');
  if (parts.length < 2) return null;
  return madeField(run, {
    key: PART_NUMBER,
    name: 'part number',
    location: 'cell',
    components: 1,
    role: 'identifier',
    names: parts.map((p) => ({ value: numberOf(run, p.name), name: p.name })),
  });
}

/** Counted from 1, in the order of the run. */
const numberOf = (run: RunDescription, part: string): number =>
  run.parts.findIndex((p) => p.name === part) + 1;

/** Which part a cell belongs to, so that parts can be told apart by colours with their names in the legend. */
export const partNumber: QuantitySource = {
  id: 'part number',
  prefixes: ['part'],
  usual: false,
  changes: false,
  needsMesh: true,
  offers: (run) => [fieldOf(run) ?? []].flat(),
  field: (name, _prefix, run) => (name === NAME ? fieldOf(run) : null),
  lacking: (name, _prefix, run) => (name === NAME && fieldOf(run) ? null : 'parts to be told apart'),
  origin(_need, name, _prefix, { run, part }) {
    if (name !== NAME || !fieldOf(run)) return null;
    const options = numberOf(run, part.name);
    return {
      source: 'part number',
      id: `part ${options}`,
      location: 'cell',
      components: 1,
      axial: false,
      arrays: [],
      of: [],
      options,
    };
  },
  compute: ({ options }, { mesh }) => new Float32Array(mesh.types.length).fill(options as number),
};
