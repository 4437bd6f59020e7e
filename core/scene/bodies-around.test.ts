import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun, withDisplacement } from '../../tests/sample-run.ts';
import type { RunDescription } from '../model/run.ts';
import { bodiesHiding, GLASS } from './bodies-around.ts';
import { defaultScene } from './default-scene.ts';
import type { Layer, Scene } from './document.ts';
import { applyEdit } from './edits.ts';
import { SceneHistory } from './history.ts';
import { layerSentence } from './layer-sentence.ts';
import { readLayer } from './read-layer.ts';
import { saidInPicture } from './said-in-picture.ts';

let run: RunDescription;
let scene: Scene;
beforeAll(async () => {
  run = await ovenRun();
  scene = defaultScene(run);
});

/** The layer of a sentence. */
function said(sentence: string, of: Scene = scene): Layer {
  const read = readLayer(sentence, of, run, null, 'new');
  if (!('layer' in read)) throw new Error(`not understood: ${sentence}`);
  return read.layer;
}

describe('bodies around what is put into them', () => {
  it.each([
    'Section of oven at z = 0.5',
    'Isosurface of oven where temperature = 45',
    'Cloud of oven by temperature',
    'What is kept of oven where temperature is between 45 and 60',
  ])('become as thin as glass for "%s"', (sentence) => {
    expect(bodiesHiding(said(sentence), scene, run)).toEqual([scene.layers[0].id]);
  });
  it('do so for what is made of another line or of a set', () => {
    const rule = { kind: 'parts' as const, parts: ['oven'] };
    const withSet = { ...scene, sets: [{ name: 'hot', rule }] };
    for (const [sentence, of] of [
      ['Section of line 1 at z = 0.5', scene],
      ['Section of the set “hot” at z = 0.5', withSet],
    ] as const)
      expect([sentence, bodiesHiding(said(sentence, of), of, run)]).toEqual([sentence, [scene.layers[0].id]]);
  });
  it('stay for what lies on them, and where they are see-through, hidden or open already', () => {
    const section = said('Section of oven at z = 0.5');
    expect(bodiesHiding(said('Edges of oven'), scene, run)).toEqual([]);
    expect(bodiesHiding(said('Surface of oven'), scene, run)).toEqual([]);
    const [body] = scene.layers;
    for (const change of [{ opacity: 0.3 }, { visible: false }, { sides: 'inside' as const }])
      expect(bodiesHiding(section, { ...scene, layers: [{ ...body, ...change }] }, run)).toEqual([]);
    const other = { ...scene, layers: [{ ...said('Section of oven at x = 0.2'), id: 'first' }] };
    expect(bodiesHiding(section, other, run)).toEqual([]);
    expect(bodiesHiding(section, scene, { ...run, dimension: 2 })).toEqual([]);
  });
  it('say so in their sentence, and come back with the same undo', () => {
    const layer = said('Section of oven at z = 0.5');
    const thin = bodiesHiding(layer, scene, run);
    const history = SceneHistory.of(scene).apply({ type: 'layer.add', layer, thin });
    const [body] = history.scene.layers;
    expect(body.opacity).toBe(GLASS);
    const words = layerSentence(body, history.scene, run)
      .map((p) => p.text)
      .join('');
    expect(words).toContain('14 % opacity');
    expect(history.undo().scene).toEqual(scene);
    expect(applyEdit(scene, { type: 'layer.add', layer }).layers[0].opacity).toBe(1);
  });
});

describe('a run with a displacement', () => {
  const moved = (largest: number) => withDisplacement(run, largest);
  it('opens deformed, with its factor in the picture and the sentence', () => {
    const small = moved(1e-4);
    const opened = defaultScene(small);
    // A cube of 1: its diagonal times 0.08 is 0.139, and 1000 the round factor below 1386.
    expect(opened.layers[0].chain.map((s) => s.op)).toEqual(['deform']);
    expect(saidInPicture(opened, small)).toEqual(['displacement × 1000']);
    const words = layerSentence(opened.layers[0], opened, small)
      .map((p) => p.text)
      .join('');
    expect(words).toContain('times an automatic factor of 1000');
    const read = readLayer(words, opened, small, null, 'again');
    expect('layer' in read && read.layer.chain[0].options).toMatchObject({ mode: 'automatic' });
    const hidden = { ...opened, layers: opened.layers.map((l) => ({ ...l, visible: false })) };
    expect(saidInPicture(hidden, small)).toEqual([]);
  });
  it('is left as large as it is when that is plain to see, and a mode of any size is brought to one that shows it', () => {
    expect(saidInPicture(defaultScene(moved(0.3)), moved(0.3))).toEqual([]);
    expect(saidInPicture(defaultScene(moved(40)), moved(40))).toEqual(['displacement × 0.002']);
    expect(defaultScene(moved(0)).layers[0].chain).toEqual([]);
    const opened = defaultScene(moved(1e-4));
    const [layer] = opened.layers;
    const [step] = layer.chain;
    const options = { ...(step.options as object), mode: 'factor', factor: 331.8841 };
    const grown = { ...opened, layers: [{ ...layer, chain: [{ ...step, options }] }] };
    expect(saidInPicture(grown, moved(1e-4))).toEqual(['displacement × 331.9']);
  });
});
