import { fieldColumn, whereCondition } from '../fields/condition.ts';
import { ownName } from '../fields/quantity-sources.ts';
import { fieldUnit, phrasesOf } from '../language/phrase.ts';
import { boundedNumber, wholeNumber } from '../model/bounded-number.ts';
import { z } from '../model/schema.ts';
import {
  type ConditionOptions,
  conditionShape,
  needsOfCondition,
  withConditionSettled,
} from './chain/condition-options.ts';
import type { Operation } from './chain/operation.ts';
import { emptyResult } from './chain/results.ts';
import { somePoints } from './kernels/points-alone.ts';
import { subsetCells } from './kernels/subset-cells.ts';

export interface KeepWhereOptions extends ConditionOptions {
  of: 'cells' | 'points';
  by: 'range' | 'condition';
  field: string;
  component: number | 'magnitude';
  low: number;
  high: number;
}

const p = phrasesOf<KeepWhereOptions>();

/** Whole cells, or points, where a condition holds: a range of one field, or any formula. */
export const keepWhere: Operation<KeepWhereOptions> = {
  id: 'keep-where',
  name: 'Keep where',
  purpose: 'cells or points that meet a condition',
  opening: 'What is kept of ',
  joining: ', kept',
  schema: z.object({
    of: z.enum(['cells', 'points']).default('cells'),
    by: z.enum(['range', 'condition']).default('range'),
    field: z.string().default(''),
    component: z.union([wholeNumber(), z.literal('magnitude')]).default(0),
    low: boundedNumber().default(0),
    high: boundedNumber().default(1),
    ...conditionShape,
  }),
  defaults({ preferred }) {
    const { low = 0, high = 1 } = preferred ?? {};
    return {
      of: 'cells',
      by: 'range',
      field: preferred?.field ?? '',
      component: preferred?.component ?? 0,
      low: Number((low + 0.5 * (high - low)).toPrecision(3)),
      high,
      condition: '',
      names: {},
    };
  },
  phrase: p.row(
    p.text(' where '),
    p.oneOf(
      p.row(p.fixed('by', 'condition'), p.condition('condition')),
      p.row(
        p.fixed('by', 'range'),
        p.quantity('field', 'component'),
        p.text(' is between '),
        p.number('low', fieldUnit),
        p.text(' and '),
        p.number('high', fieldUnit),
      ),
    ),
    p.flag('of', ' by points', 'points', 'cells'),
  ),
  controls: [
    {
      kind: 'choice',
      key: 'by',
      label: 'By',
      called: 'way of choosing',
      choices: [
        { value: 'range', label: 'a range' },
        { value: 'condition', label: 'a condition' },
      ],
    },
    {
      kind: 'quantity',
      key: 'field',
      component: 'component',
      label: 'Of',
      when: (o) => o.by === 'range',
    },
    { kind: 'span', key: 'low', high: 'high', label: 'Between', when: (o) => o.by === 'range' },
    {
      kind: 'condition',
      key: 'condition',
      label: 'Where',
      called: 'condition',
      when: (o) => o.by === 'condition',
    },
    {
      kind: 'choice',
      key: 'of',
      label: 'Keep',
      choices: [
        { value: 'cells', label: 'cells' },
        { value: 'points', label: 'points' },
      ],
    },
  ],
  traits: { readsPartName: true, within: true, leavesOut: 'not all of it' },
  scope: 'part',
  reads: 'step',
  gives: (dimension) => dimension,
  needs: (o) => (o.by === 'range' ? [{ field: o.field }] : needsOfCondition(o)),
  settle: (options, setting) => (options.by === 'range' ? options : withConditionSettled(options, setting)),
  run(input, o) {
    const holds = whereHolds(input, o);
    if (!holds) return emptyResult({ lacking: ownName(o.field) });
    const { of } = o;
    const which: number[] = [];
    for (let i = 0; i < holds.length; i++) if (holds[i] !== 0) which.push(i);
    const list = Uint32Array.from(which);
    const report = { kept: list.length, of: holds.length, what: of };
    const kept = of === 'cells' ? subsetCells(input.mesh, list) : somePoints(input.mesh, list);
    return { ...kept, report };
  },
};

function whereHolds(
  input: Parameters<Operation<KeepWhereOptions>['run']>[0],
  o: KeepWhereOptions,
): ArrayLike<number> | null {
  if (o.by === 'condition') return whereCondition(input, o.condition, o.names, o.of);
  const field = input.field({ field: o.field });
  if (!field) return null;
  const values = fieldColumn(field, o.component, input.mesh, o.of);
  const [low, high] = [Math.min(o.low, o.high), Math.max(o.low, o.high)];
  return Uint8Array.from(values, (v) => Number(v >= low && v <= high));
}
