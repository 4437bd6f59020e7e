import { beforeAll, describe, expect, it } from 'vitest';
import { readyFormulas } from '#core/fields/formula/ready-formulas.ts';
import { lackingQuantity, withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { whyNotRead } from '#core/language/sentence-reader.ts';
import type { RunDescription } from '#core/model/run.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import { readAsk } from '#core/scene/read-ask.ts';
import { importSteps } from '../tests/sample-run.ts';
import { hexBlock } from '../tests/vtu-builder.ts';
import { ArraySource } from './array-source.ts';
import { GaugeAnswers } from './gauge-answers.ts';
import { GeometryMaker } from './geometry-maker.ts';
import { measureParts } from './measuring.ts';
import { Ranges } from './ranges.ts';

const VISCOSITY = 1.8e-5;

/** Poiseuille's flow between plates at z = 0 and 1, in a cube that begins at x: u = 4 z (1 - z), whose shear is 4 at both. */
function air(from = 0): Uint8Array {
  const block = hexBlock(6);
  const mesh = { ...block, points: block.points.map((v, i) => (i % 3 === 0 ? v + from : v)) };
  const n = mesh.points.length / 3;
  const field = (
    name: string,
    unit: string,
    components: number,
    of: (x: number, z: number, k: number) => number,
  ) => ({
    name,
    location: 'point' as const,
    components,
    unit,
    data: Float32Array.from({ length: n * components }, (_, i) => {
      const at = 3 * Math.floor(i / components);
      return of(mesh.points[at], mesh.points[at + 2], i % components);
    }),
  });
  const fields = [
    field('velocity', 'm/s', 3, (_, z, k) => (k === 0 ? 4 * z * (1 - z) : 0)),
    field('p', 'Pa', 1, (x) => 1 - 8 * VISCOSITY * x),
    field('temperature', '°C', 1, (_, z) => 20 + 5 * z * z),
  ];
  return writeVtu(mesh, fields, 0, { length: 'm', time: 's' });
}

interface Opened {
  run: RunDescription;
  ask(text: string): Promise<number | number[]>;
}

async function opened(parts: Record<string, Uint8Array>): Promise<Opened> {
  const made = await importSteps([{ time: 0, parts }]);
  const run = withOfferedQuantities(made.run);
  const maker = new GeometryMaker(new ArraySource(made.store.load));
  const gauges = new GaugeAnswers(new Ranges(run, null), (requests) => measureParts(maker, requests));
  const scene = defaultScene(run);
  const ask = async (text: string) => {
    const read = readAsk(text, scene, run);
    if ('at' in read) throw new Error(`${text}: ${whyNotRead(text, read)}`);
    return (await gauges.at(read, scene, 0)).value;
  };
  return { run, ask };
}

let run: RunDescription;
let ask: Opened['ask'];
beforeAll(async () => {
  // A plate beside it, 2 to the right.
  const block = hexBlock(6);
  const beside = { ...block, points: block.points.map((v, i) => (i % 3 === 0 ? v + 3 : v)) };
  const plate = writeVtu(beside, [], 0, { length: 'm', time: 's' });
  ({ run, ask } = await opened({ air: air(), 'left plate': plate }));
});

const ready = (name: string): string => readyFormulas(run).find((r) => r.name === name)!.formula;

describe('walls', () => {
  it('are dragged along by a flow as its pressure pushes it', async () => {
    // As a stress it is taken across each face by itself, exactly at edges too.
    const stress = '2 * 1.8e-5 Pa s * symmetric(wall_gradient(velocity))';
    const drag = (await ask(`force from (${stress}) on air, inwards`)) as number[];
    // By hand: 4 times the viscosity on a square metre, twice.
    expect(drag[0] / (8 * VISCOSITY)).toBeCloseTo(1, 4);
    expect(Math.hypot(drag[1], drag[2]) / VISCOSITY).toBeLessThan(1e-3);
    // What is lost of the pressure is the same: together nothing is left.
    const pushed = (await ask('force from p on air')) as number[];
    expect(pushed[0] / drag[0]).toBeCloseTo(-1, 3);
    const shear = await ask(`maximum of (${ready('wall shear')}) over section of air at y = 0.5`);
    expect((shear as number) / (4 * VISCOSITY)).toBeCloseTo(1, 4);
    const friction = await ask(`maximum of (${ready('skin-friction coefficient')}) over air`);
    expect((friction as number) / ((4 * VISCOSITY) / 60)).toBeCloseTo(1, 4);
  });
  it('are not where a flow goes on in another part', async () => {
    // Two zones of one flow: at the seam their walls look the same way, and between them there is none.
    const shear = `magnitude of (${ready('wall shear')})`;
    const zones = await opened({ 'first zone': air(), 'second zone': air(1) });
    expect(((await zones.ask(`value of ${shear} at (1, 0.5, 0)`)) as number) / (4 * VISCOSITY)).toBeCloseTo(
      1,
      4,
    );
    expect(await zones.ask(`value of ${shear} at (1, 0.5, 0.5)`)).toBeNaN();
    // A plate that fits, but has no flow in it, is a wall.
    const block = hexBlock(6);
    const fitting = { ...block, points: block.points.map((v, i) => (i % 3 === 0 ? v + 1 : v)) };
    const plate = writeVtu(fitting, [], 0, { length: 'm', time: 's' });
    const beside = await opened({ air: air(), plate });
    expect(await beside.ask(`value of ${shear} at (1, 0.5, 0.5)`)).toBeCloseTo(0, 6);
  });
  it('let heat through by the slope there', async () => {
    // 20 + 5 z²: at the top it grows by 10 a metre, so 0.03 times that flows down into it, against the normal.
    const heat = `(${ready('heat flux through walls')})`;
    expect(await ask(`minimum of ${heat} over air`)).toBeCloseTo(-0.3, 5);
    expect(await ask(`maximum of ${heat} over air`)).toBeCloseTo(0, 5);
  });
  it('are so far away as their outside is', async () => {
    expect(await ask('maximum of (distance("left plate")) over air')).toBeCloseTo(3, 5);
    expect(await ask('minimum of (distance("left plate")) over air')).toBeCloseTo(2, 5);
    expect(await ask('maximum of (distance("air")) over air')).toBeCloseTo(0.5, 5);
    expect(lackingQuantity('formula:distance("right plate")', run)).toMatch(/part "right plate"/);
    expect(lackingQuantity('formula:distance(p)', run)).toMatch(/takes a name between quotation marks/);
  });
});
