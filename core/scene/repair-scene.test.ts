import { beforeAll, describe, expect, it } from 'vitest';
import { attackDocuments, fullScene } from '../../tests/attack/documents.ts';
import { ovenRun } from '../../tests/sample-run.ts';
import { speak } from '../language/sentence.ts';
import type { RunDescription } from '../model/run.ts';
import { readScene, type Scene } from './document.ts';
import { layerSentence } from './layer-sentence.ts';
import { repairScene } from './repair-scene.ts';

let run: RunDescription;
let scene: Scene;
beforeAll(async () => {
  run = await ovenRun();
  scene = fullScene(run);
});

/** The scene with one place changed, as it would come out of a file. */
const with_ = (path: (string | number)[], value: unknown): Record<string, unknown> => {
  const copy = structuredClone(scene) as unknown as Record<string | number, unknown>;
  let at = copy;
  for (const key of path.slice(0, -1)) at = at[key] as typeof at;
  at[path[path.length - 1]] = value;
  return copy as Record<string, unknown>;
};

describe('a scene that does not fit', () => {
  it('is left alone when it fits', () => {
    expect(repairScene(scene)).toEqual({ scene, repairs: [] });
  });
  it('has its numbers brought within their bounds, and says which', () => {
    const far = repairScene(with_(['picture', 'aspect'], 1e-300));
    expect(far.scene.picture.aspect).toBeNull();
    expect(far.repairs).toEqual(['picture / aspect was 1e-300 and is now null']);
    expect(repairScene(with_(['picture', 'aspect'], 5000)).scene.picture.aspect).toBe(1024);
    expect(repairScene(with_(['layers', 1, 'opacity'], 7)).scene.layers[1].opacity).toBe(1);
    expect(repairScene(with_(['camera', 'position', 0], 2e30)).scene.camera.position[0]).toBe(1e30);
    expect(repairScene(with_(['camera', 'position', 0], 1e300)).scene.camera.position[0]).toBe(3);
  });
  it('gets plain things in place of what is missing or no thing of its kind', () => {
    // 1e400 in a file becomes infinite, and null once it is written.
    const made = repairScene(with_(['camera', 'height'], null));
    expect(made.scene.camera.height).toBe(2);
    expect(made.repairs).toHaveLength(1);
    const { light: _, ...dark } = scene;
    expect(repairScene(dark).scene.light.rig).toBe('studio');
    expect(repairScene(with_(['layers', 2, 'colour'], 'red')).scene.layers[2].colour.kind).toBe('plain');
  });
  it('loses only the elements nothing can be made of', () => {
    const made = repairScene(with_(['layers', 1], 'no layer'));
    expect(made.scene.layers).toHaveLength(scene.layers.length - 1);
    expect(made.repairs).toEqual(['layers / 1 did not fit and was left out']);
  });
  it('tells twins apart', () => {
    const made = repairScene({ ...scene, layers: [scene.layers[0], scene.layers[0]] });
    expect(new Set(made.scene.layers.map((l) => l.id)).size).toBe(2);
  });
  it('keeps steps of a chain it does not understand, untouched, and says so', () => {
    const chain = [{ id: 'melt', op: 'melt', options: { heat: [1, { deep: true }] }, off: false }];
    const made = repairScene(with_(['layers', 0, 'chain'], chain));
    expect(made.repairs).toEqual([]);
    expect(made.scene.layers[0].chain).toEqual(chain);
    expect(speak(layerSentence(made.scene.layers[0], made.scene, run))).toContain('“melt” (not understood)');
  });
  it('leaves the given document as it was', () => {
    const given = with_(['layers', 1, 'opacity'], 7);
    const before = JSON.stringify(given);
    repairScene(given);
    expect(JSON.stringify(given)).toBe(before);
  });
  it('is refused when it is none', () => {
    for (const none of [null, 3, {}, { version: 99 }, []]) expect(() => repairScene(none)).toThrow(/scene/i);
  });
});

describe('wrecked documents', () => {
  it('open repaired or are refused in words, and nothing they lead to breaks', () => {
    expect(attackDocuments(400, 11, run).findings).toEqual([]);
  }, 120_000);
  it('hold no number that could not be written down', () => {
    for (const bad of [Number.NaN, Number.POSITIVE_INFINITY, 1e300])
      expect(() => readScene(with_(['scales', 0, 'legend', 'x'], bad))).toThrow(/damaged at/);
  });
});
