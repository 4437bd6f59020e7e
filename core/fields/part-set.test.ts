import { expect, it } from 'vitest';
import { fieldOf, hexBlockBetween, quadSheet } from '../../tests/made-solids.ts';
import type { MeshField } from '../model/field.ts';
import type { SetRule } from '../model/set-rule.ts';
import { sourceOf } from '../ops/chain/chain.ts';
import { cellsOfRule, needsOfRule, sayRule } from './part-set.ts';

const mesh = hexBlockBetween(4);
const names = [{ key: 'point:heat', name: 'heat', components: 1 }];
const heat = (sign: number): MeshField => ({
  location: 'point',
  components: 1,
  axial: false,
  data: fieldOf(mesh, (x) => sign * x),
});
const source = sourceOf(mesh, {
  origin: [10, 0, 0],
  part: 'oven',
  fields: new Map([
    ['point:heat', heat(1)],
    ['point:heat@0', heat(-1)],
    [
      'set:tins',
      {
        location: 'cell',
        components: 1,
        axial: false,
        data: Uint8Array.from({ length: 64 }, (_, c) => Number(c < 16)),
      },
    ],
  ]),
});
const cells = (rule: SetRule): number[] =>
  [...cellsOfRule(rule, source, names, ['tins'])].flatMap((v, c) => (v ? [c] : []));

it('holds the cells of parts, groups, boxes, lists, values and conditions', () => {
  expect(cells({ kind: 'parts', parts: ['oven'] })).toHaveLength(64);
  expect(cells({ kind: 'parts', parts: ['rack'] })).toHaveLength(0);
  expect(cells({ kind: 'group', name: 'tins' })).toHaveLength(16);
  // In the coordinates of the files: the origin of the run is at x = 10.
  expect(cells({ kind: 'box', low: [9, -1, -1], high: [10, 0, 0] })).toHaveLength(8);
  expect(cells({ kind: 'cells', cells: { oven: [3, 5, 900], rack: [1] } })).toEqual([3, 5]);
  const range = { kind: 'range', field: 'point:heat', component: 0, low: 0, high: 1 } as const;
  const now = cells({ ...range, when: 'each step' });
  const frozen = cells({ ...range, when: 0 });
  expect(now).toHaveLength(32);
  expect(frozen.filter((c) => now.includes(c))).toHaveLength(0);
  expect(cells({ kind: 'condition', condition: 'heat > 0.5 and tins = 1', when: 'each step' })).toHaveLength(
    4,
  );
});

it('combines them as sets do', () => {
  const a: SetRule = { kind: 'group', name: 'tins' };
  const b: SetRule = { kind: 'condition', condition: 'x > 10', when: 'each step' };
  const [na, nb, both] = [cells(a), cells(b), cells({ kind: 'intersection', of: [a, b] })].map(
    (c) => c.length,
  );
  expect(cells({ kind: 'union', of: [a, b] })).toHaveLength(na + nb - both);
  expect(cells({ kind: 'difference', of: [a, b] })).toHaveLength(na - both);
  expect(cells({ kind: 'complement', of: [a] })).toHaveLength(64 - na);
  expect(cells({ kind: 'union', of: [] })).toEqual([]);
});

it('finds what hangs together', () => {
  const one = quadSheet(2, 2, [0, 1], [0, 1]);
  const two = quadSheet(3, 1, [5, 6], [0, 1]);
  const shift = one.points.length / 3;
  const apart = {
    points: Float32Array.from([...one.points, ...two.points]),
    types: new Uint8Array(7).fill(9),
    offsets: Uint32Array.from({ length: 8 }, (_, c) => 4 * c),
    connectivity: Uint32Array.from([...one.connectivity, ...two.connectivity.map((p) => p + shift)]),
  };
  const piece = sourceOf(apart, { origin: [0, 0, 0], part: 'oven', fields: new Map() });
  expect([...cellsOfRule({ kind: 'region', part: 'oven', cell: 5 }, piece, [], [])]).toEqual([
    0, 0, 0, 0, 1, 1, 1,
  ]);
});

it('names the fields it reads, of the step it is frozen at, and speaks', () => {
  const rule: SetRule = {
    kind: 'difference',
    of: [
      { kind: 'range', field: 'point:heat', component: 0, low: 0, high: 1, when: 3 },
      { kind: 'group', name: 'tins' },
    ],
  };
  expect(needsOfRule(rule, names, ['tins'])).toEqual([
    { field: 'point:heat', step: 3 },
    { field: 'set:tins' },
  ]);
  expect(sayRule(rule, () => 'heat')).toBe('heat between 0 and 1, as at step 4 without tins');
});
