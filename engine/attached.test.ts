import { beforeAll, describe, expect, it } from 'vitest';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { type FieldToWrite, writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { RunDescription } from '#core/model/run.ts';
import { type Attachment, attachmentKey, type Found } from '#core/scene/annotations/attachment.ts';
import { label } from '#core/scene/annotations/label.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { ChainStep, Scene } from '#core/scene/document.ts';
import { partLook } from '#core/scene/things/part-look.ts';
import { importSteps, temperature } from '../tests/sample-run.ts';
import { hexBlock } from '../tests/vtu-builder.ts';
import { ArraySource } from './array-source.ts';
import { GeometryMaker } from './geometry-maker.ts';
import { SceneSource } from './scene-source.ts';

/** A unit cube of 4 x 4 x 4 cells. Its corner (1, 1, 1) is its last point. */
const mesh = hexBlock(4);
const points = mesh.points.length / 3;
const LAST = points - 1;
const corner = (i: number): number[] => Array.from(mesh.points.slice(3 * i, 3 * i + 3));

/** Each point moves along y by a tenth of its height. */
const lift: FieldToWrite = {
  name: 'displacement',
  location: 'point',
  components: 3,
  unit: 'm',
  data: Float32Array.from({ length: 3 * points }, (_, i) => (i % 3 === 1 ? 0.1 * mesh.points[i + 1] : 0)),
};

let run: RunDescription;
let source: SceneSource;
let plain: Scene;

beforeAll(async () => {
  const block = (n: number) =>
    writeVtu(mesh, [temperature(mesh, (x, y, z) => 20 + 10 * n + x + 2 * y + 3 * z), lift], n, {
      length: 'm',
      time: 's',
    });
  const made = await importSteps([
    { time: 0, parts: { tin: block(0), cold: block(-2) } },
    { time: 1, parts: { tin: block(1), cold: block(-2) } },
  ]);
  run = withOfferedQuantities(made.run);
  const maker = new GeometryMaker(new ArraySource(made.store.load));
  source = new SceneSource(run, (request) => maker.make(request));
  plain = defaultScene(run);
});

const wanted = [{ field: 'point:temperature', component: 0 as const }];

/** A scene of one line with something that hangs. */
function hanging(attachment: Attachment, chain: ChainStep[] = [], change: Partial<Scene> = {}): Scene {
  const hook = {
    ...label.plain,
    ...('part' in attachment ? { part: attachment.part } : {}),
    ...('index' in attachment ? { index: attachment.index } : {}),
    ...('among' in attachment ? { among: attachment.among } : {}),
    on: attachment.kind,
    field: 'point:temperature',
    component: 0,
    text: '{value}',
  };
  const annotation = { ...hook, id: 'one', kind: 'label' as const, visible: true };
  return { ...plain, layers: [{ ...plain.layers[0], chain }], annotations: [annotation], ...change };
}

async function found(attachment: Attachment, step = 0, chain: ChainStep[] = [], change: Partial<Scene> = {}) {
  const frame = await source.frame(hanging(attachment, chain, change), step, 'test');
  const key = attachmentKey(attachment);
  expect(Object.keys(frame.attached)).toEqual([key]);
  return frame.attached[key];
}

const step = (op: string, options: object): ChainStep => ({ id: op, op, options, off: false });
const surface = [step('surface', { sets: [], smooth: 0, between: true })];

const near = (place: Found['place'], expected: number[]): void => {
  for (let k = 0; k < 3; k++) expect(place[k]).toBeCloseTo(expected[k], 6);
};

describe('what words hang on', () => {
  it('is a node at its place, with its value at every step', async () => {
    const node: Attachment = { kind: 'node', part: 'tin', index: LAST, values: wanted };
    for (const [at, value] of [
      [0, 26],
      [1, 36],
    ]) {
      const one = (await found(node, at))!;
      near(one.place, [1, 1, 1]);
      expect(one.values[0]).toBeCloseTo(value, 5);
      expect([one.part, one.index]).toEqual(['tin', LAST]);
    }
  });

  it('goes with the deformed shape, and stays where the files have it beside what is not drawn', async () => {
    const node: Attachment = { kind: 'node', part: 'tin', index: LAST, values: wanted };
    const deform = step('deform', {
      field: 'point:displacement',
      component: 'magnitude',
      mode: 'factor',
      factor: 5,
      step: null,
    });
    near((await found(node, 0, [...surface, deform]))!.place, [1, 1.5, 1]);
    const section = step('section', { normal: [0, 0, 1], offset: 0.4 });
    near((await found(node, 0, [section]))!.place, [1, 1, 1]);
  });

  it('is a cell at its middle, with the mean of its points', async () => {
    const one = (await found({ kind: 'cell', part: 'tin', index: 63, values: wanted }))!;
    // The last cell, of which three faces are drawn: the mean of their corners.
    expect(one.values[0]).toBeCloseTo(20 + 6 * 0.875, 5);
    for (const v of one.place) expect(v).toBeGreaterThan(0.85);
    // Within the block nothing is drawn: the middle of the cell itself.
    const inner = (await found({ kind: 'cell', part: 'tin', index: 21, values: wanted }))!;
    near(inner.place, [0.375, 0.375, 0.375]);
    expect(inner.values[0]).toBeCloseTo(20 + 6 * 0.375, 5);
  });

  it('is the lowest and highest value of all parts on show', async () => {
    const highest = (await found({ kind: 'highest', among: 'all', values: wanted }, 1))!;
    near(highest.place, [1, 1, 1]);
    expect(highest.values[0]).toBeCloseTo(36, 5);
    expect(highest.part).toBe('tin');
    const lowest = (await found({ kind: 'lowest', among: 'all', values: wanted }, 1))!;
    near(lowest.place, [0, 0, 0]);
    expect([lowest.part, lowest.values[0]]).toEqual(['cold', 0]);
  });

  it('is the highest value of what is drawn, where that is asked', async () => {
    const section = [step('section', { normal: [0, 0, 1], offset: 0.4 })];
    const one = (await found({ kind: 'highest', among: 'shown', values: wanted }, 1, section))!;
    near(one.place, [1, 1, 0.4]);
    expect(one.values[0]).toBeCloseTo(30 + 1 + 2 + 1.2, 5);
    // Anywhere in the part it is higher.
    const all = (await found({ kind: 'highest', among: 'all', values: wanted }, 1, section))!;
    expect(all.values[0]).toBeCloseTo(36, 5);
  });

  it('is the middle of what is shown of a part', async () => {
    near((await found({ kind: 'part', part: 'tin' }))!.place, [0.5, 0.5, 0.5]);
    const cut = [step('section', { normal: [1, 0, 0], offset: 0.25 })];
    near((await found({ kind: 'part', part: 'tin' }, 0, cut))!.place, [0.25, 0.5, 0.5]);
  });

  it('is nothing where the part is hidden, or has no such node', async () => {
    const hidden = {
      parts: { tin: { ...partLook.plain, hidden: true } },
    };
    expect(await found({ kind: 'node', part: 'tin', index: 0, values: wanted }, 0, [], hidden)).toBeNull();
    expect(await found({ kind: 'part', part: 'tin' }, 0, [], hidden)).toBeNull();
    expect(await found({ kind: 'node', part: 'tin', index: 9999, values: wanted })).toBeNull();
    const lowest = await found({ kind: 'highest', among: 'all', values: wanted }, 1, [], hidden);
    expect(lowest!.part).toBe('cold');
  });
});

it('what is looked for beside words is found on what is shown', async () => {
  const highest: Attachment = { kind: 'highest', among: 'all', values: wanted };
  const scene = {
    ...plain,
    layers: [{ ...plain.layers[0], chain: [step('section', { normal: [0, 0, 1], offset: 0.4 })] }],
  };
  const found = (await source.find(scene, 1, highest))!;
  near(found.place, [1, 1, 1]);
  expect(found.values[0]).toBeCloseTo(36, 5);
  expect(await source.find({ ...scene, layers: [] }, 1, highest)).toBeNull();
});

describe('what is nearest to a place that was pointed at', () => {
  const at = (scene: Scene, place: [number, number, number]) =>
    source.nearest(scene, 0, { layer: scene.layers[0].id, part: 'tin', place });

  it('is the node and a cell of the part', async () => {
    const scene = { ...plain, layers: [{ ...plain.layers[0], chain: surface }] };
    const one = (await at(scene, [0.98, 0.97, 1]))!;
    expect([one.part, one.node]).toEqual(['tin', LAST]);
    expect(one.cell).toBe(63);
  });

  it('is found on deformed shapes where they are drawn', async () => {
    const deform = step('deform', {
      field: 'point:displacement',
      component: 'magnitude',
      mode: 'factor',
      factor: 5,
      step: null,
    });
    const scene = { ...plain, layers: [{ ...plain.layers[0], chain: [...surface, deform] }] };
    expect(corner((await at(scene, [0.98, 1.5, 1]))!.node)).toEqual([1, 1, 1]);
  });

  it('is one of the nodes a section goes between', async () => {
    const section = [step('section', { normal: [0, 0, 1], offset: 0.45 })];
    const scene = { ...plain, layers: [{ ...plain.layers[0], chain: section }] };
    expect(corner((await at(scene, [0, 0, 0.45]))!.node)).toEqual([0, 0, 0.5]);
  });
});
