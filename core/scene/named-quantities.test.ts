import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import { sentencesIn } from '../fields/formula/expanded-formula.ts';
import { setsOutOf } from '../fields/formula/sets-in-sentences.ts';
import { withOfferedQuantities } from '../fields/quantity-sources.ts';
import { speak } from '../language/sentence.ts';
import type { MeasuredNumber, RunDescription } from '../model/run.ts';
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
    expect(expandedQuantities(back).map((q) => q.key)).toEqual(expandedQuantities(scene).map((q) => q.key));
    expect(back.layers.at(-1)!.colour).toMatchObject({ field: expandedQuantities(scene)[1].key });
    const { quantities: _, ...before } = JSON.parse(JSON.stringify(plain));
    expect(readScene(before).quantities).toEqual([]);
  });

  it('follow when the run calls its fields otherwise', () => {
    const { key, name } = temperature();
    const swapped = renameInScene(made(), { fields: { [key]: 'point:heat level' }, parts: {} });
    expect(swapped.quantities[0].formula).toBe(made().quantities[0].formula.replace(name, 'heat level'));
    expect(line(swapped).colour).toMatchObject({ field: expandedQuantities(swapped)[1].key });
    const far = { id: 'q1', name: 'far', formula: 'distance("oven") + measured("area of oven")' };
    const other = renameInScene({ ...plain, quantities: [far] }, { fields: {}, parts: { oven: 'chamber' } });
    expect(other.quantities[0].formula).toBe('distance("chamber") + measured("area of chamber")');
  });

  it('measure on the part sets of the scene, and follow when these change', () => {
    const { name } = temperature();
    const box = (high: number) => ({
      name: 'near the door',
      rule: {
        kind: 'box' as const,
        low: [0, 0, 0] as [number, number, number],
        high: [high, 1, 1] as [number, number, number],
      },
    });
    const formula = `${name} - measured("average of ${name} over the set near the door")`;
    let scene = applyEdit(plain, { type: 'set.save', set: box(0.5) });
    scene = applyEdit(scene, { type: 'quantity.save', quantity: { id: 'q1', name: 'excess', formula } });
    const add = (id: string, colour: string): void => {
      const read = readLayer(`All of everything, coloured by ${colour}`, scene, known, null, id);
      if ('at' in read) throw new Error(JSON.stringify([read.at, read.refused]));
      scene = applyEdit(scene, { type: 'layer.add', layer: read.layer, scale: read.scale ?? undefined });
    };
    const ofSentence = (s: Scene) => sentencesIn(expandedQuantities(s)[0].key)[0];
    expect(setsOutOf(ofSentence(scene))).toEqual({
      sentence: `average of ${name} over the set near the door`,
      sets: [box(0.5)],
    });
    const number: MeasuredNumber = { unit: '°C', components: 1, perStep: run.steps.map(() => 20) };
    const known = { ...run, numbers: { [ofSentence(scene)]: number } };
    add('l8', 'excess');
    add('l9', `(2 * measured("average of ${name} over the set near the door"))`);
    // Readers are told the name of the set, not its rule.
    expect(speak(layerSentence(line(scene), scene, known, 'typed'))).toContain(
      `(2 * measured("average of ${name} over the set near the door"))`,
    );
    expect(speak(layerSentence(line(scene), scene, known, 'typed'))).not.toContain('box');
    const moved = applyEdit(scene, { type: 'set.save', set: box(0.8) });
    expect(setsOutOf(ofSentence(moved)).sets).toEqual([box(0.8)]);
    const colours = moved.layers.slice(-2).map((l) => (l.colour.kind === 'field' ? l.colour.field : ''));
    expect(colours[0]).toBe(expandedQuantities(moved)[0].key);
    expect(setsOutOf(sentencesIn(colours[1])[0]).sets).toEqual([box(0.8)]);
    expect(moved.scales.filter((s) => s.quantity.includes('0.5'))).toEqual([]);
    // Without the set what measured on it keeps the name, and says what is missing.
    const without = applyEdit(scene, { type: 'set.remove', name: 'near the door' });
    expect(sentencesIn(expandedQuantities(without)[0].key)).toEqual([
      `average of ${name} over the set near the door`,
    ]);
  });

  it('say what is wrong with a formula', () => {
    const trouble = (formula: string) => troubleOfFormula(formula, plain, run);
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
