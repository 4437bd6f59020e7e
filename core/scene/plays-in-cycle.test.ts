import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import { speak } from '../language/sentence.ts';
import type { RunDescription } from '../model/run.ts';
import { settledStep } from '../ops/chain/settled-step.ts';
import { defaultScene } from './default-scene.ts';
import type { Layer, Scene } from './document.ts';
import { layerSentence } from './layer-sentence.ts';
import { playsInCycle } from './plays-in-cycle.ts';
import { readLayer } from './read-layer.ts';
import { saidInPicture } from './said-in-picture.ts';
import { settingOf } from './setting.ts';

let run: RunDescription;
let scene: Scene;
beforeAll(async () => {
  run = await ovenRun();
  scene = defaultScene(run);
});

function read(sentence: string): Layer {
  const found = readLayer(sentence, scene, run, null, 'new');
  if (!('layer' in found)) throw new Error(JSON.stringify(found));
  return found.layer;
}
const optionsAt = (layer: Layer, phase: number): Record<string, unknown> => {
  const there = { ...scene, cycle: { ...scene.cycle, phase } };
  return settledStep(layer.chain[0], settingOf(run, there, layer)).options as Record<string, unknown>;
};

describe('what sweeps', () => {
  it.each([
    ['section of oven at z = 0.2 m sweeping to 0.8 m', 'offset', [0.2, 0.5, 0.8]],
    ['section of oven at z = 0.2 m sweeping to 0.8 m and back', 'offset', [0.2, 0.8, 0.2]],
    [
      'section of oven by a sphere of radius 0.1 m around (0.5, 0.5, 0.5) m sweeping to 0.5 m',
      'radius',
      [0.1, 0.3, 0.5],
    ],
    ['clip of oven to x > 0.1 m sweeping to 0.9 m', 'offset', [0.1, 0.5, 0.9]],
    ['clip of oven to temperature above 21 °C sweeping to 25 °C', 'value', [21, 23, 25]],
  ] as const)('%s', (sentence, key, [begin, middle, end]) => {
    const layer = read(sentence);
    expect(optionsAt(layer, 0)[key]).toBeCloseTo(begin, 9);
    expect(optionsAt(layer, 180)[key]).toBeCloseTo(middle, 9);
    expect(optionsAt(layer, 360)[key]).toBeCloseTo(end, 9);
    // Settled, the same place is the same however it was come to.
    expect(optionsAt(layer, 180)).toMatchObject({ sweep: null, back: false });
    const said = speak(layerSentence(layer, scene, run, 'typed'));
    expect(said.toLowerCase()).toContain(sentence.slice(sentence.indexOf('sweeping')).toLowerCase());
    expect(read(said).chain[0].options).toEqual(layer.chain[0].options);
  });
  it('takes several isosurfaces along', () => {
    const layer = read('isosurface of oven where temperature = 21, 23 sweeping to 24 °C');
    expect(optionsAt(layer, 90).levels).toEqual({ kind: 'list', values: [21.75, 23.75] });
  });
  it('plays, and closes the cycle only where it comes back', () => {
    const with_ = (sentence: string) => playsInCycle({ ...scene, layers: [read(sentence)] });
    expect(playsInCycle(scene)).toEqual({ swings: false, moves: false, closed: true });
    expect(with_('section of oven at z = 0.2 m sweeping to 0.8 m')).toEqual({
      swings: false,
      moves: true,
      closed: false,
    });
    expect(with_('section of oven at z = 0.2 m sweeping to 0.8 m and back').closed).toBe(true);
    // Scenes of earlier versions know of no sweep.
    const { sweep, back, ...old } = read('section of oven at z = 0.2 m').chain[0].options as Record<
      string,
      unknown
    >;
    expect([sweep, back]).toEqual([null, false]);
    const earlier = read('section of oven at z = 0.2 m');
    earlier.chain[0].options = old;
    expect(playsInCycle({ ...scene, layers: [earlier] }).moves).toBe(false);
    const hidden = { ...read('section of oven at z = 0.2 m sweeping to 0.8 m'), visible: false };
    expect(playsInCycle({ ...scene, layers: [hidden] }).moves).toBe(false);
  });
});

describe('what swings', () => {
  it('is said in the picture by its phase', () => {
    const [layer] = scene.layers;
    const swinging: Scene = {
      ...scene,
      cycle: { ...scene.cycle, phase: 30 },
      layers: [
        {
          ...layer,
          colour: { kind: 'field', field: 'swing:point:temperature', component: 0, scale: 'scale-1' },
        },
      ],
    };
    expect(playsInCycle(swinging)).toEqual({ swings: true, moves: true, closed: true });
    expect(saidInPicture(swinging, run)).toContain('phase 30°');
    expect(saidInPicture(scene, run).join()).not.toContain('phase');
  });
});
