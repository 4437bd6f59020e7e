import { beforeAll, describe, expect, it } from 'vitest';
import { runsIn } from '#core/fields/formula/expanded-formula.ts';
import { lackingQuantity, quantityField, withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { type FieldToWrite, writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { whyNotRead } from '#core/language/sentence-reader.ts';
import type { RunDescription } from '#core/model/run.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Layer } from '#core/scene/document.ts';
import { runsToOpen, troubleOfFormula } from '#core/scene/named-quantities.ts';
import { readAsk } from '#core/scene/read-ask.ts';
import { isReading } from '#core/scene/reading.ts';
import { importSteps, MemoryStore, temperature } from '../tests/sample-run.ts';
import { hexBlock } from '../tests/vtu-builder.ts';
import { answerQuestion } from './answer-question.ts';
import { ArraySource } from './array-source.ts';
import { GaugeAnswers } from './gauge-answers.ts';
import { GeometryMaker } from './geometry-maker.ts';
import { requestsOfLayer } from './layer-requests.ts';
import { measureParts } from './measuring.ts';
import { Ranges } from './ranges.ts';
import { answerRange } from './run-ranges.ts';

const nothing = { quantities: [], sets: [] };
let run: RunDescription;
let ranges: Ranges;
let arrays: ArraySource;
const others: Record<string, RunDescription> = {};

/** A block of so many cells an edge, stretched; T = 20 + x + 2 y + 3 z + 10 t at steps of these times. */
async function made(
  store: MemoryStore,
  cells: number,
  times: number[],
  { size = 1, length = 'm', more = 0 }: { size?: number; length?: string; more?: number } = {},
): Promise<RunDescription> {
  const mesh = hexBlock(cells, size);
  const unit = length === 'mm' ? 1000 : 1;
  const points = mesh.points.map((v) => v * unit);
  const { run: read } = await importSteps(
    times.map((t) => {
      const at = (x: number, y: number, z: number): number => 20 + more + x + 2 * y + 3 * z + 10 * t;
      const field: FieldToWrite = temperature(mesh, at);
      return { time: t, parts: { oven: writeVtu({ ...mesh, points }, [field], t, { length, time: 's' }) } };
    }),
    store,
  );
  return read;
}

beforeAll(async () => {
  const store = new MemoryStore();
  run = withOfferedQuantities(await made(store, 4, [0, 1, 2]));
  others.same = await made(store, 4, [0, 1, 2], { more: 5 });
  others.fine = await made(store, 7, [0, 4], { more: 1, length: 'mm' });
  others.short = await made(store, 4, [0, 1]);
  const renamed = await made(store, 4, [0, 1, 2]);
  const [tin] = renamed.parts;
  others.tins = {
    ...renamed,
    parts: [
      { ...tin, name: 'left' },
      { ...tin, name: 'right' },
    ],
  };
  others.small = await made(store, 3, [0], { size: 0.5 });
  arrays = new ArraySource(store.load);
  ranges = new Ranges(run, async (question) => {
    if (question.kind === 'run') return others[question.key] ?? { trouble: 'there is no such run' };
    return answerQuestion(ranges.run, question, arrays);
  });
});

const range = (formula: string, step: number | 'all' = 'all') =>
  ranges.rangeOf(`formula:${formula}`, 0, step);

describe('quantities of another run', () => {
  it('on the same mesh are taken number by number', async () => {
    expect(await range('in_run("same", temperature) - temperature')).toMatchObject({
      min: expect.closeTo(5, 4),
      max: expect.closeTo(5, 4),
      nanCount: 0,
    });
  });
  it('on another mesh are those at the same place and time, whatever its units', async () => {
    // Between 0 and 4 seconds it goes straight, as the temperature does.
    for (const step of [0, 1, 2])
      expect(await range('in_run("fine", temperature) - temperature', step)).toMatchObject({
        min: expect.closeTo(1, 3),
        max: expect.closeTo(1, 3),
        nanCount: 0,
      });
    // What is made of it there is made on its mesh: 1 a metre is a thousandth a millimetre.
    const steep = await range('in_run("fine", gradient(temperature)).x');
    expect(steep).toMatchObject({ min: expect.closeTo(0.001, 6), max: expect.closeTo(0.001, 6) });
  });
  it('outside of it have no value, which is counted; a single step is that of all times', async () => {
    const found = await range('in_run("small", temperature)', 2);
    expect(found).toMatchObject({ min: expect.closeTo(20, 4), max: expect.closeTo(23, 4) });
    // Of 5 x 5 x 5 points 3 x 3 x 3 lie within the half.
    expect([found!.count, found!.nanCount]).toEqual([27, 98]);
  });
  it('are opened when they are asked for, and say what is not there', async () => {
    expect(runsIn('T - in_run("a \\"b\\"", T) + in_run("c", T)')).toEqual(['a "b"', 'c']);
    const formula = 'in_run("gone", temperature)';
    expect(runsToOpen(formula, nothing, ranges.run)).toEqual(['gone']);
    expect([
      troubleOfFormula(formula, nothing, ranges.run),
      quantityField(`formula:${formula}`, ranges.run),
    ]).toEqual([null, null]);
    await ranges.knowIngredients([`formula:${formula}`]);
    expect(runsToOpen(formula, nothing, ranges.run)).toEqual([]);
    expect(troubleOfFormula(formula, nothing, ranges.run)).toMatch(/"gone": there is no such run/);
    expect(lackingQuantity('formula:in_run("same", steam)', ranges.run)).toMatch(/"same", which has no/);
    expect(lackingQuantity('formula:in_run(temperature)', run)).toMatch(/takes the name of a run/);
    expect(() =>
      answerRange(run, { kind: 'run', key: 'same' }, new ArraySource(async () => null!)),
    ).toThrow();
  });
  it('say why there is no value where the other run has none', async () => {
    const maker = new GeometryMaker(arrays);
    const gauges = new GaugeAnswers(ranges, (requests) => measureParts(maker, requests));
    const scene = defaultScene(run);
    const asked = async (formula: string, step: number) => {
      await ranges.knowIngredients([`formula:${formula}`]);
      const ask = readAsk(`average of (${formula}) over everything`, scene, ranges.run);
      if ('at' in ask) throw new Error(whyNotRead(formula, ask));
      const [found] = (await gauges.overSteps([ask], scene, [step]))[0];
      return isReading(found) ? found.value : found.trouble;
    };
    const short = 'temperature - in_run("short", temperature)';
    expect(await asked(short, 1)).toBeCloseTo(0, 4);
    const why = 'The run “short” has nothing at 2 s: it goes from 0 s to 1 s.';
    expect(await asked(short, 2)).toBe(why);
    // The line that shows it says so too.
    const key = `formula:${short}`;
    const layer = {
      ...scene.layers[0],
      colour: { ...scene.layers[0].colour, field: key } as Layer['colour'],
    };
    const at = (step: number) => requestsOfLayer(layer, scene, ranges.run, step).absent;
    expect([at(1), at(2)]).toEqual([null, why]);
    expect(await asked('in_run("tins", temperature)', 0)).toBe('The run “tins” has no part “oven”.');
  });
});
