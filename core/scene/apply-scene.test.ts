import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import { withOfferedQuantities } from '../fields/quantity-sources.ts';
import type { RunDescription } from '../model/run.ts';
import type { SetRule } from '../model/set-rule.ts';
import { newStep } from '../ops/chain/step.ts';
import { operationById, operations } from '../ops/registry.ts';
import { sceneMismatches } from './apply-scene.ts';
import { defaultScene } from './default-scene.ts';
import type { Layer, Scene } from './document.ts';
import { settingOf } from './setting.ts';
import { partLook } from './things/part-look.ts';

let run: RunDescription;
let scene: Scene;
beforeAll(async () => {
  run = withOfferedQuantities(await ovenRun());
  scene = defaultScene(run);
});

const withLayer = (change: Partial<Layer>, more: Partial<Scene> = {}): Scene => ({
  ...scene,
  layers: [{ ...scene.layers[0], ...change }],
  ...more,
});
const chain = (op: string, options: object): Layer['chain'] => [
  {
    ...newStep(operationById(op), {
      ...(operationById(op).defaults(settingOf(run, scene)) as object),
      ...options,
    }),
    id: 'step-1',
  },
];
const withSet = (rule: SetRule): Scene => withLayer({ set: 'hot' }, { sets: [{ name: 'hot', rule }] });

describe('what a run does not have of a scene', () => {
  it('is nothing for its own first scene, nor for the own part sets of a scene', () => {
    expect(sceneMismatches(scene, run)).toEqual([]);
    expect(sceneMismatches(withSet({ kind: 'parts', parts: ['oven'] }), run)).toEqual([]);
    const full = operations.map((o) => chain(o.id, {})[0]);
    for (const step of full) {
      // The oven does not move, so there is nothing a deformed shape could be made with.
      const told =
        step.op === 'deform' ? ['no quantity is chosen: the deformed shape of line 1 reads it'] : [];
      expect(sceneMismatches(withLayer({ chain: [step] }), run), step.op).toEqual(told);
    }
  });
  it('is told once for each thing, with all that ask for it', () => {
    const other = { ...run, parts: [], fields: [] };
    expect(sceneMismatches(withLayer({ parts: ['oven'] }), other)).toEqual([
      'the run has no part "oven"',
      'the run has no point field "temperature": oven is coloured by it, the scale “temperature” is made for it',
    ]);
  });
  it('follows from what each operation needs', () => {
    for (const [op, options] of [
      ['isosurface', { field: 'point:steam' }],
      ['contour-lines', { field: 'point:steam' }],
      ['clip', { shape: 'value', field: 'point:steam' }],
      ['deform', { field: 'point:steam' }],
      ['keep-where', { by: 'range', field: 'point:steam' }],
    ] as const) {
      const [told, ...more] = sceneMismatches(withLayer({ chain: chain(op, options) }), run);
      expect(told ?? '', op).toMatch(/^the run has no point field "steam": the .+ of line 1 reads it$/);
      expect(more).toEqual([]);
    }
  });
  it('names the words of a condition that nobody knows', () => {
    const where = chain('keep-where', { by: 'condition', condition: 'temperature > 30 and steam < 2' });
    expect(sceneMismatches(withLayer({ chain: where }), run).join()).toMatch(
      /the keep where of line 1: "steam" is not known here/,
    );
  });
  it('looks into part sets, whichever way they are made', () => {
    const steam = {
      kind: 'range',
      field: 'cell:steam',
      component: 0,
      low: 0,
      high: 1,
      when: 'each step',
    } as const;
    const rules: [SetRule, RegExp][] = [
      [{ kind: 'parts', parts: ['lid'] }, /no part "lid": the part set “hot” is made of it/],
      [{ kind: 'cells', cells: { lid: [1] } }, /no part "lid"/],
      [{ kind: 'region', part: 'lid', cell: 0 }, /no part "lid"/],
      [{ kind: 'group', name: 'tins' }, /no part set "tins": the part set “hot”/],
      [steam, /no cell field "steam": the part set “hot”/],
      [{ ...steam, field: 'point:temperature', when: 7 }, /no step 8 of temperature, only 3 steps/],
      [{ kind: 'condition', condition: 'steam > 1', when: 'each step' }, /"steam" is not known here/],
      [{ kind: 'complement', of: [{ kind: 'union', of: [steam] }] }, /no cell field "steam"/],
    ];
    for (const [rule, told] of rules)
      expect(sceneMismatches(withSet(rule), run).join(), rule.kind).toMatch(told);
  });
  it('tells of scales, looks of parts, fixed steps, sources and steps nobody understands', () => {
    const [scale] = scene.scales;
    const scales = [{ ...scale, id: 'b', name: 'Steam', quantity: 'point:steam#0' }, scale];
    expect(sceneMismatches({ ...scene, scales }, run)).toEqual([
      'the run has no point field "steam": the scale “Steam” is made for it',
    ]);
    const look = { ...partLook.plain, hidden: true };
    expect(sceneMismatches({ ...scene, parts: { lid: look } }, run)).toEqual([
      'the run has no part "lid": its look is set',
    ]);
    expect(sceneMismatches(withLayer({ time: { kind: 'fixed', step: 9 } }), run)).toEqual([
      'the run has no step 10, only 3 steps: line 1 shows it',
    ]);
    expect(sceneMismatches(withLayer({ from: 'gone' }), run).join()).toMatch(
      /line 1: The line it follows is gone/,
    );
    expect(sceneMismatches(withLayer({ set: 'gone' }), run)).toEqual(['the run has no part set "gone"']);
    expect(
      sceneMismatches(withLayer({ chain: [{ id: 'melt', op: 'melt', options: {}, off: false }] }), run),
    ).toEqual(['line 1: This version has no operation “melt”']);
    const odd = withLayer({ colour: { kind: 'field', field: 'odd:one', component: 0, scale: scale.id } });
    expect(sceneMismatches(odd, run)).toEqual(['the run has no quantity "odd:one": oven is coloured by it']);
  });
});
