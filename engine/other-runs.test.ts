import { beforeAll, describe, expect, it } from 'vitest';
import { runsIn } from '#core/fields/formula/expanded-formula.ts';
import { lackingQuantity, quantityField, withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { type FieldToWrite, writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { RunDescription } from '#core/model/run.ts';
import { runsToOpen, troubleOfFormula } from '#core/scene/named-quantities.ts';
import { importSteps, MemoryStore, temperature } from '../tests/sample-run.ts';
import { hexBlock } from '../tests/vtu-builder.ts';
import { answerQuestion } from './answer-question.ts';
import { ArraySource } from './array-source.ts';
import { Ranges } from './ranges.ts';
import { answerRange } from './run-ranges.ts';

let run: RunDescription;
let ranges: Ranges;
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
  others.small = await made(store, 3, [0], { size: 0.5 });
  const arrays = new ArraySource(store.load);
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
    expect(runsToOpen(formula, [], ranges.run)).toEqual(['gone']);
    expect([
      troubleOfFormula(formula, [], ranges.run),
      quantityField(`formula:${formula}`, ranges.run),
    ]).toEqual([null, null]);
    await ranges.knowIngredients([`formula:${formula}`]);
    expect(runsToOpen(formula, [], ranges.run)).toEqual([]);
    expect(troubleOfFormula(formula, [], ranges.run)).toMatch(/"gone": there is no such run/);
    expect(lackingQuantity('formula:in_run("same", steam)', ranges.run)).toMatch(/"same", which has no/);
    expect(lackingQuantity('formula:in_run(temperature)', run)).toMatch(/takes the name of a run/);
    expect(() =>
      answerRange(run, { kind: 'run', key: 'same' }, new ArraySource(async () => null!)),
    ).toThrow();
  });
});
