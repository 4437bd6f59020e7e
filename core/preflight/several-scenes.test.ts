import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import type { RunDescription } from '../model/run.ts';
import { defaultScene } from '../scene/default-scene.ts';
import type { Scale, Scene } from '../scene/document.ts';
import { findingsOfSeveral, type SceneBesideOthers } from './several-scenes.ts';

let run: RunDescription;
let scene: Scene;
beforeAll(async () => {
  run = await ovenRun();
  scene = defaultScene(run);
});

const shown = (name: string, range: Scale['range'], change: Partial<Scene> = {}): SceneBesideOthers => ({
  id: name,
  name,
  scene: { ...scene, scales: [{ ...scene.scales[0], range }], ...change },
  run,
  step: 1,
  spreads: null,
});
const rules = (...some: SceneBesideOthers[]): string[] => findingsOfSeveral(some).map((f) => f.rule);

describe('scenes that are shown together', () => {
  it('are found to have different ranges, where both are known', () => {
    const narrow = { kind: 'fixed', low: 20, high: 30 } as const;
    expect(rules(shown('a', narrow), shown('b', narrow))).toEqual([]);
    expect(rules(shown('a', narrow), shown('b', { ...narrow, high: 40 }))).toEqual(['different ranges']);
    // Over three steps from 20 to 46 °C; of what is shown nothing is known here.
    expect(rules(shown('a', { kind: 'all-steps' }), shown('b', narrow))).toEqual(['different ranges']);
    expect(rules(shown('a', { kind: 'shown' }), shown('b', narrow))).toEqual([]);
  });
  it('are compared in the unit that is shown', () => {
    const fixed = { kind: 'fixed', low: 20, high: 30 } as const;
    const inKelvin = shown('b', fixed);
    inKelvin.scene = {
      ...inKelvin.scene,
      scales: [{ ...inKelvin.scene.scales[0], unit: 'K' }],
    };
    const [finding] = findingsOfSeveral([shown('a', fixed), inKelvin]);
    expect(finding.says).toContain('293.1 to 303.1 K');
  });
  it('have what is found in each under its name, without what is mended elsewhere', () => {
    const bare = shown('Before', { kind: 'all-steps' }, { legends: { ...scene.legends, shown: false } });
    const [finding] = findingsOfSeveral([bare]);
    expect(finding).toMatchObject({ rule: 'no legend', place: { kind: 'figure', id: 'Before' } });
    expect(finding.says).toMatch(/^Before\. /);
    expect(finding.mend).toBeUndefined();
  });
});
