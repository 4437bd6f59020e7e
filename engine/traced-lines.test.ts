import { describe, expect, it } from 'vitest';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Layer, Scene } from '#core/scene/document.ts';
import { readLayer } from '#core/scene/read-layer.ts';
import { importSteps } from '../tests/sample-run.ts';
import { hexBlock } from '../tests/vtu-builder.ts';
import { ArraySource } from './array-source.ts';
import { GeometryMaker } from './geometry-maker.ts';
import { SceneSource } from './scene-source.ts';
import { tracedLines } from './traced-lines.ts';

/** Air that turns about an axis, in two parts side by side, far from the origin of the files. */
async function setUp() {
  const block = hexBlock(4);
  const at = [1000, 2000, 0];
  const part = (shift: number) => {
    const points = block.points.map((v, i) => v + at[i % 3] + (i % 3 === 0 ? shift : 0));
    const data = new Float32Array(points.length);
    for (let i = 0; i < data.length; i += 3) {
      const [x, y] = [points[i] - 1001, points[i + 1] - 2000.5];
      data.set([-y, x, 0.1], i);
    }
    const field = { name: 'velocity', location: 'point' as const, components: 3, unit: 'm/s', data };
    return writeVtu({ ...block, points: Float64Array.from(points) }, [field], 0, { length: 'm', time: 's' });
  };
  const { run, store } = await importSteps([{ time: 0, parts: { left: part(0), right: part(1) } }]);
  const whole = withOfferedQuantities(run);
  const scene = defaultScene(whole);
  const read = (said: string): Layer => {
    const found = readLayer(said, scene, whole, null, 'new');
    if (!('layer' in found)) throw new Error(`${said}: ${found.at}`);
    return found.layer;
  };
  return { run: whole, scene, read, store, arrays: new ArraySource(store.load) };
}

describe('lines number by number', () => {
  it('cross parts, in the coordinates of the files, with the reason of their ends', async () => {
    const { run, scene, read, arrays } = await setUp();
    const said =
      'Streamlines of everything by velocity from point (1001.3, 2000.5, 0.1), forward, for at most 3.14159265';
    const [line] = await tracedLines(scene, read(said), run, 0, arrays);
    expect(line.why).toBe('its time is over');
    expect(line.seed).toEqual([expect.closeTo(1001.3, 4), expect.closeTo(2000.5, 4), expect.closeTo(0.1, 6)]);
    // Half a turn about (1001, 2000.5), into the other part; 0.314 higher.
    expect(line.end[0]).toBeCloseTo(1000.7, 3);
    expect(line.end[1]).toBeCloseTo(2000.5, 3);
    expect(line.end[2]).toBeCloseTo(0.1 + 0.314159, 4);
    expect(line.time).toBeCloseTo(Math.PI, 5);
    expect(line.length).toBeCloseTo(Math.PI * Math.hypot(0.3, 0.1), 3);
    expect(line.points.length).toBe(line.times.length);
    expect(line.times[0]).toBe(0);
  });

  it('both ways tell both ends', async () => {
    const { run, scene, read, arrays } = await setUp();
    const [line] = await tracedLines(
      scene,
      read('Streamlines of everything by velocity from point (1001.2, 2000.5, 0.5), as tubes'),
      run,
      0,
      arrays,
    );
    expect(line.whyBegin).toBe('it leaves the body');
    expect(line.why).toBe('it leaves the body');
    expect(line.begin![2]).toBeLessThan(0.02);
    expect(line.end[2]).toBeGreaterThan(0.98);
  });

  it('begin on the cells of a part set, in whatever parts these are, also where values decide', async () => {
    const { run, scene, read, arrays } = await setUp();
    const sets: Scene['sets'] = [
      { name: 'low corner', rule: { kind: 'box', low: [1000, 2000, 0], high: [1000.3, 2000.3, 0.3] } },
      { name: 'quick', rule: { kind: 'condition', condition: 'velocity > 0.95', when: 'each step' } },
    ];
    const from = (set: string) =>
      tracedLines(
        { ...scene, sets },
        read(`Streamlines of right by velocity from set "${set}", 6 seeds, forward`),
        run,
        0,
        arrays,
      );
    const corner = await from('low corner');
    // Of the left part, in which the lines are not followed: they begin outside.
    expect(corner.length).toBe(6);
    for (const { seed, why } of corner) {
      for (const [k, low] of [1000, 2000, 0].entries()) {
        expect(seed[k]).toBeGreaterThan(low - 1e-4);
        expect(seed[k]).toBeLessThan(low + 0.5 + 1e-4);
      }
      if (seed[0] < 1000.99) expect(why).toBe('its seed lies outside');
    }
    const quick = await from('quick');
    // By hand: about (1001, 2000.5) its speed is the distance, save for 0.1 upwards.
    for (const { seed } of quick) expect(Math.hypot(seed[0] - 1001, seed[1] - 2000.5)).toBeGreaterThan(0.6);
    expect(quick.some(({ seed }) => seed[0] > 1001)).toBe(true);
    await expect(from('gone')).rejects.toThrow('cells in part set “gone”');
  });

  it('says in words what cannot be followed', async () => {
    const { run, scene, read, arrays } = await setUp();
    await expect(tracedLines(scene, read('Surface of everything'), run, 0, arrays)).rejects.toThrow(
      'follows no flow',
    );
    await expect(
      tracedLines(scene, read('Streamlines of left by velocity from part "gone"'), run, 0, arrays),
    ).rejects.toThrow('“gone”');
  });

  it('are coloured by what comes with them, with a range that is known once they are drawn', async () => {
    const { run, scene, read, arrays } = await setUp();
    const maker = new GeometryMaker(arrays);
    const source = new SceneSource(run, (request) => maker.make(request));
    const layer = read(
      'Streamlines of everything by velocity, 20 seeds, as tubes, coloured by length along line',
    );
    const found = readLayer(
      'Streamlines of everything by velocity, 20 seeds, as tubes, coloured by length along line',
      scene,
      run,
      null,
      'new',
    );
    const scales = 'layer' in found && found.scale ? [found.scale] : [];
    const frame = await source.frame({ ...scene, layers: [layer], scales, annotations: [] }, 0, 'test');
    const [part] = frame.parts;
    expect(part.shape.marks.map((m) => m.kind)).toEqual(['surface']);
    expect(part.spread!.low).toBe(0);
    expect(part.spread!.high).toBeGreaterThan(0.5);
    expect(part.values[0]!.length).toBe(
      (part.shape.marks[0] as { positions: Float32Array }).positions.length / 3,
    );
  });
});
