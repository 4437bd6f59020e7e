import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import type { RunDescription } from '../model/run.ts';
import { defaultScene } from '../scene/default-scene.ts';
import type { Scene } from '../scene/document.ts';
import { drawnScenes } from './drawn-scenes.ts';
import { differencesOfScales, type ScaledPane, withSharedScales } from './shared-scales.ts';

let run: RunDescription;
let scene: Scene;
beforeAll(async () => {
  run = await ovenRun();
  scene = defaultScene(run);
});

const pane = (id: string, low: number, high: number, more: Partial<ScaledPane> = {}): ScaledPane => ({
  id,
  title: id,
  scene,
  run,
  ends: { [scene.scales[0].id]: [low, high] },
  shares: true,
  ...more,
});
/** The same run with its temperatures stored in K. */
const inKelvin = (): RunDescription => ({
  ...run,
  fields: run.fields.map((f) => (f.name === 'temperature' ? { ...f, unit: 'K' } : f)),
});
const rangeOf = (of: Scene) => of.scales[0].range;

describe('scales of panes that share them', () => {
  it('reach over what all of them show', () => {
    const drawn = withSharedScales([
      pane('a', 20, 180),
      pane('b', 40, 230),
      pane('c', 10, 20, { shares: false }),
    ]);
    expect(rangeOf(drawn[0])).toEqual({ kind: 'fixed', low: 20, high: 230 });
    expect(rangeOf(drawn[1])).toEqual(rangeOf(drawn[0]));
    expect(rangeOf(drawn[2])).toEqual(rangeOf(scene));
  });
  it('mean the same temperature where one run stores it in another unit', () => {
    const drawn = withSharedScales([pane('a', 20, 180), pane('b', 293.15, 500, { run: inKelvin() })]);
    expect(rangeOf(drawn[0])).toMatchObject({ low: 20, high: expect.closeTo(226.85, 9) });
    expect(rangeOf(drawn[1])).toMatchObject({ low: expect.closeTo(293.15, 9), high: expect.closeTo(500, 9) });
  });
  it('stay as they are where nobody else has the quantity', () => {
    expect(rangeOf(withSharedScales([pane('a', 20, 180), pane('b', 0, 1, { shares: false })])[0])).toEqual(
      rangeOf(scene),
    );
  });
  it('have one legend below all, and none in the pictures', () => {
    const { scenes, legends } = drawnScenes([pane('a', 20, 180), pane('b', 40, 230)], true);
    expect(legends).toEqual([{ pane: 'a', scale: scene.scales[0].id }]);
    for (const id of ['a', 'b']) expect(scenes.get(id)!.scales[0].legend.visible).toBe(false);
    const each = drawnScenes([pane('a', 20, 180), pane('b', 40, 230)], false);
    expect(each.legends).toEqual([]);
    expect(each.scenes.get('b')!.scales[0].legend.visible).toBe(true);
  });
});

describe('what cannot be compared by its colours', () => {
  it('is told with the ends in each pane, in one unit', () => {
    expect(differencesOfScales([pane('a', 20, 180), pane('b', 40, 230)])).toEqual([]);
    const apart = [
      pane('a', 20, 180),
      pane('b', 40, 230),
      pane('c', 313.15, 503.15, { run: inKelvin(), shares: false }),
    ];
    expect(differencesOfScales(apart)).toEqual([
      'One colour is not one temperature in all panes: 20 to 230 °C in a and b, 40 to 230 °C in c.',
    ]);
    expect(differencesOfScales(apart.map((p) => ({ ...p, shares: false })))).toEqual([
      'One colour is not one temperature in all panes: 20 to 180 °C in a, 40 to 230 °C in b and c.',
    ]);
  });
  it('is told of different maps too', () => {
    const other = { ...scene, scales: scene.scales.map((s) => ({ ...s, map: 'cividis' })) };
    expect(differencesOfScales([pane('a', 20, 180), pane('b', 20, 180, { scene: other })])).toEqual([
      'Panes colour temperature by different maps or bands.',
    ]);
  });
});
