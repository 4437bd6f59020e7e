import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import { withOfferedQuantities } from '../fields/quantity-sources.ts';
import { speak } from '../language/sentence.ts';
import type { RunDescription } from '../model/run.ts';
import { sceneMismatches } from './apply-scene.ts';
import { defaultScene } from './default-scene.ts';
import { readScene, type Scene } from './document.ts';
import { applyEdit } from './edits.ts';
import { layerSentence } from './layer-sentence.ts';
import { expandedQuantities, troubleOfFormula, withSceneQuantities } from './named-quantities.ts';
import { readAsk } from './read-ask.ts';
import { readLayer } from './read-layer.ts';
import { renameInScene } from './rename-in-scene.ts';
import { readScript, writeScript } from './scene-script.ts';
import { quantitiesOf } from './setting.ts';

let run: RunDescription;
let plain: Scene;
beforeAll(async () => {
  run = withOfferedQuantities(await ovenRun());
  plain = defaultScene(run);
});

const temperature = () => run.fields.find((f) => f.role === 'temperature')!;
const excess = { id: 'q1', name: 'excess', formula: '' };

function made(): Scene {
  const name = temperature().name;
  let scene = applyEdit(plain, { type: 'quantity.save', quantity: { ...excess, formula: `${name} - 20` } });
  scene = applyEdit(scene, {
    type: 'quantity.save',
    quantity: { id: 'q2', name: 'double', formula: '2 * excess' },
  });
  const read = readLayer(
    'What is kept of everything where “double > 3”, coloured by double',
    scene,
    run,
    null,
    'l9',
  );
  if ('at' in read) throw new Error(JSON.stringify(read));
  return applyEdit(scene, {
    type: 'layer.add',
    layer: read.layer as Scene['layers'][number],
    scale: read.scale ?? undefined,
  });
}
const line = (scene: Scene) => scene.layers.find((l) => l.id === 'l9')!;

describe('quantities of a scene', () => {
  it('are named in sentences, conditions and questions, and say all they are made of by their keys', () => {
    const scene = made();
    const key = `formula:2 * (${temperature().name} - 20)`;
    expect(line(scene).colour).toMatchObject({ kind: 'field', field: key });
    expect(speak(layerSentence(line(scene), scene, run, 'typed'))).toContain('coloured by double');
    expect(sceneMismatches(scene, run)).toEqual([]);
    expect('at' in readAsk('average of excess over everything', scene, run)).toBe(false);
    expect('at' in readAsk('average of excess over everything', plain, run)).toBe(true);
    const names = quantitiesOf(withSceneQuantities(run, scene)).map((q) => q.name);
    expect(names.slice(0, 2)).toEqual(['excess', 'double']);
  });

  it('that change take along what uses them, by key and by name', () => {
    const changed = applyEdit(made(), {
      type: 'quantity.save',
      quantity: { ...excess, name: 'warmth', formula: `${temperature().name} - 50` },
    });
    const key = `formula:2 * (${temperature().name} - 50)`;
    expect(line(changed).colour).toMatchObject({ field: key });
    expect(changed.scales.some((s) => s.quantity === `${key}#0`)).toBe(true);
    expect(changed.quantities[1].formula).toBe('2 * warmth');
    expect(sceneMismatches(changed, run)).toEqual([]);
    const renamed = applyEdit(changed, {
      type: 'quantity.save',
      quantity: { id: 'q2', name: 'twice', formula: '2 * warmth' },
    });
    expect(JSON.stringify(line(renamed).chain)).toContain('twice > 3');
  });

  it('that are deleted stay where they were used, by their formula', () => {
    const without = applyEdit(applyEdit(made(), { type: 'quantity.remove', id: 'q2' }), {
      type: 'quantity.remove',
      id: 'q1',
    });
    expect(without.quantities).toEqual([]);
    expect(line(without).colour).toMatchObject({ field: `formula:2 * (${temperature().name} - 20)` });
    // The condition named it.
    expect(sceneMismatches(without, run).join()).toMatch(/"double" is not known here/);
  });

  it('are kept in documents and in scripts', () => {
    const scene = made();
    expect(readScene(JSON.parse(JSON.stringify(scene))).quantities).toEqual(scene.quantities);
    const script = writeScript(scene, run);
    expect(script).toContain(`Quantity "double" is 2 * excess`);
    const back = readScript(script, run);
    expect(expandedQuantities(back.quantities).map((q) => q.key)).toEqual(
      expandedQuantities(scene.quantities).map((q) => q.key),
    );
    expect(back.layers.at(-1)!.colour).toMatchObject({ field: expandedQuantities(scene.quantities)[1].key });
    const { quantities: _, ...before } = JSON.parse(JSON.stringify(plain));
    expect(readScene(before).quantities).toEqual([]);
  });

  it('follow when the run calls its fields otherwise', () => {
    const { key, name } = temperature();
    const swapped = renameInScene(made(), { fields: { [key]: 'point:heat level' }, parts: {} });
    expect(swapped.quantities[0].formula).toBe(made().quantities[0].formula.replace(name, 'heat level'));
  });

  it('say what is wrong with a formula', () => {
    const trouble = (formula: string) => troubleOfFormula(formula, [], run);
    expect(trouble(`${temperature().name} * 2`)).toBeNull();
    expect(trouble('2 *')).toMatch(/^Not understood/);
    expect(trouble('steam * 2')).toMatch(/^"steam" is not known here/);
    expect(trouble('part')).toMatch(/This is a text/);
    expect(trouble('curl(2)')).toMatch(/cannot be had/);
  });

  it('are proposed where a run lacks what could be computed', () => {
    const read = readAsk('average of heat flux over everything', plain, run);
    expect('at' in read && read.refused?.because).toMatch(
      /the run has no heat flux; it can be computed.*gradient/,
    );
  });
});
