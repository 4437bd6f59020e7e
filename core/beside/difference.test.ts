import { beforeAll, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import type { RunDescription } from '../model/run.ts';
import { defaultScene } from '../scene/default-scene.ts';
import { differenceOf } from './difference.ts';

let run: RunDescription;
beforeAll(async () => {
  run = { ...(await ovenRun()), name: 'oven a' };
});

it('is the first less the second, by the name of its run, with nothing in the middle of its colours', () => {
  const scene = defaultScene(run);
  const other = { ...run, name: 'oven "b"' };
  const found = differenceOf({ scene, run, id: 'a' }, { scene, run: other, id: 'b' }, null);
  if (typeof found === 'string') throw new Error(found);
  expect(found.name).toBe('difference of temperature');
  expect(found.scene.quantities.at(-1)!.formula).toBe('(temperature) - in_run("oven \\"b\\"", temperature)');
  const scale = found.scene.scales.at(-1)!;
  expect(scale.symmetric).toBe(0);
  expect(found.scene.layers.some((l) => l.colour.kind === 'field' && l.colour.scale === scale.id)).toBe(true);
});

it('of two steps of one run, and of another time of another run, takes the step that is shown there', () => {
  const scene = { ...defaultScene(run), step: 0 };
  const later = { ...scene, step: 2 };
  const same = differenceOf({ scene, run, id: 'a' }, { scene: later, run, id: 'a' }, null);
  expect(same).toMatchObject({
    scene: { quantities: [{ formula: '(temperature) - (at_step(3, temperature))' }] },
  });
  const other = differenceOf(
    { scene, run, id: 'a' },
    { scene: later, run: { ...run, name: 'b' }, id: 'b' },
    null,
  );
  expect(other).toMatchObject({
    scene: { quantities: [{ formula: '(temperature) - in_run("b", at_step(3, temperature))' }] },
  });
});

it('says why there is none', () => {
  const scene = { ...defaultScene(run), layers: [] };
  const pair = { scene, run, id: 'a' };
  expect(differenceOf(pair, { ...pair, id: 'b' }, null)).toMatch(/shows no values/);
  expect(differenceOf(pair, { ...pair, id: 'b' }, 'point:nothing#0')).toMatch(/does not have that quantity/);
});
