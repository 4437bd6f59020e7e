import { beforeAll, describe, expect, it } from 'vitest';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { type RunDescription, runBounds } from '#core/model/run.ts';
import { attachmentKey, type Found } from '#core/scene/annotations/attachment.ts';
import { type Annotation, annotationKind, annotationKinds } from '#core/scene/annotations/registry.ts';
import { projectPoint } from '#core/scene/camera.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Scene } from '#core/scene/document.ts';
import { settingOf } from '#core/scene/setting.ts';
import { partLook } from '#core/scene/things/part-look.ts';
import { PretendedPainter } from '../../tests/pretended-painter.ts';
import { ovenRun } from '../../tests/sample-run.ts';
import { standingParts } from '../standing.ts';
import { paintWords } from './paint-words.ts';

let run: RunDescription;
let plain: Scene;
beforeAll(async () => {
  run = withOfferedQuantities(await ovenRun());
  plain = defaultScene(run);
});

const one = (kind: Annotation['kind'], change: object = {}, id: string = kind): Annotation => ({
  ...annotationKind(kind).defaults(settingOf(run, plain), plain),
  ...change,
  id,
  kind,
  visible: true,
});

function painted(
  annotations: Annotation[],
  {
    width = 1000,
    height = 500,
    step = 1,
    attached = {},
    change = {},
  }: {
    width?: number;
    height?: number;
    step?: number;
    attached?: Record<string, Found>;
    change?: Partial<Scene>;
  } = {},
) {
  const painter = new PretendedPainter();
  const scene = { ...plain, annotations, ...change };
  const boxes = paintWords(
    painter as unknown as CanvasRenderingContext2D,
    {
      scene,
      run,
      step,
      spreads: [],
      behind: null,
      bounds: runBounds(run),
      attached,
      readings: {},
      curves: {},
    },
    { width, height },
  );
  const box = (id: string) => boxes.find((b) => b.id === id)!;
  const said = (text: string) => painter.texts.find((t) => t.text === text)!;
  return { painter, boxes, box, said, scene };
}

describe('words on the picture', () => {
  it('tell their values at the step on show, and grow from the end they are held by', () => {
    const text = one('text', { text: 't = {time:.1f} s', x: 0.5, y: 0.2, align: 'right' });
    const first = painted([text], { step: 0 });
    const third = painted([text], { step: 2 });
    expect(first.said('t = 0.0 s')).toMatchObject({ x: 500, align: 'right' });
    expect(third.said('t = 10.0 s')).toMatchObject({ x: 500, align: 'right' });
  });

  it('are as large and stand in the same place on a picture of any size', () => {
    const text = one('text', { text: 'a', x: 0.3, y: 0.4 });
    const small = painted([text]).said('a');
    const large = painted([text], { width: 4000, height: 2000 }).said('a');
    expect(large).toMatchObject({ x: 4 * small.x, y: 4 * small.y, size: 4 * small.size });
  });

  it('tell what dimension lines measure, counted kind by kind', () => {
    const along = (id: string, to: number) =>
      one(
        'distance',
        {
          places: [
            [0, 0, 0],
            [to, 0, 0],
          ],
        },
        id,
      );
    const square = one('angle', {
      places: [
        [1, 0, 0],
        [0, 0, 0],
        [0, 1, 0],
      ],
    });
    const text = one('text', {
      text: '{distance 2:.2f} m, {distance 1 in mm:.0f} mm, {angle 1:.0f}°, {distance 3}',
    });
    const { said } = painted([text, along('a', 0.5), square, along('b', 0.25)]);
    expect(said('0.25 m, 500 mm, 90°, {distance 3}')).toBeDefined();
  });

  it('stay within the picture', () => {
    const { box } = painted([one('text', { text: 'at the very edge', x: 1, y: 1, align: 'left' })]);
    expect(box('text').x + box('text').width).toBeLessThanOrEqual(1000);
    expect(box('text').y + box('text').height).toBeLessThanOrEqual(500);
  });

  it('and the time stand above a caption bar, not on it', () => {
    const bar = one('caption', { edge: 'bottom' });
    const { box } = painted([bar, one('text', { y: 1 })]);
    expect(box('caption')).toMatchObject({ x: 0, width: 1000 });
    for (const id of ['stamp', 'text'])
      expect(box(id).y + box(id).height).toBeLessThanOrEqual(box('caption').y);
  });

  it('of a title block are in rows within their frame', () => {
    const block = one('title-block', { title: 'Oven', rows: 'Run: {run}\nStep: {step} of {steps}' });
    const { painter, box, said } = painted([block]);
    expect(said('2 of 3').y).toBeGreaterThan(said(run.name).y);
    const { x, y, width, height } = box('title-block');
    for (const text of ['Oven', 'Run', 'Step', '2 of 3']) {
      const at = said(text);
      expect(at.x).toBeGreaterThan(x);
      expect(at.x + 0.5 * at.size * text.length).toBeLessThan(x + width);
      expect(at.y).toBeGreaterThan(y);
      expect(at.y).toBeLessThan(y + height);
    }
    expect(painter.texts.every((t) => !t.text.includes('{'))).toBe(true);
  });

  it('hang on a place with a line to it, and know its value', () => {
    const hook = { on: 'node', part: 'oven', index: 3, field: 'point:temperature', component: 0 };
    const label = one('label', { ...hook, text: '{value:.1f} at {x:.2f}' });
    const attachment = {
      kind: 'node' as const,
      part: 'oven',
      index: 3,
      values: [{ field: 'point:temperature', component: 0 as const }],
    };
    const place: [number, number, number] = [0.25, 0.5, 0.75];
    const found = { [attachmentKey(attachment)]: { place, part: 'oven', index: 3, values: [27.25] } };
    const { box, said, scene, painter } = painted([label], { attached: found });
    expect(said('27.3 at 0.25')).toBeDefined();
    const { x, y } = projectPoint(scene.camera, place, 2);
    expect(box('label').anchor!.x).toBeCloseTo(1000 * x, 6);
    expect(box('label').anchor!.y).toBeCloseTo(500 * y, 6);
    const starts = painter.shapes.some(
      ({ corners }) =>
        corners.length === 2 && Math.hypot(corners[0][0] - 1000 * x, corners[0][1] - 500 * y) < 1e-6,
    );
    expect(starts).toBe(true);
  });

  it('that hang on what is not there are not painted', () => {
    const { boxes, painter } = painted([one('label', { on: 'node', part: 'gone', text: 'lost' })]);
    expect(boxes.some((b) => b.id === 'label')).toBe(false);
    expect(painter.texts.some((t) => t.text === 'lost')).toBe(false);
  });

  it('are numbered in their order, those that are hidden left out, and the key says the same', () => {
    const callout = (id: string, text: string, visible = true) => ({
      ...one('callout', { on: 'place', place: [0.5, 0.5, 0.5], text }, id),
      visible,
    });
    const key = one('callout-key');
    const { painter } = painted([
      callout('a', 'door'),
      callout('b', 'fan', false),
      callout('c', 'rack'),
      key,
    ]);
    const order = ['door', 'rack'].map((t) => painter.texts.find((w) => w.text === t)!);
    expect(painter.texts.some((t) => t.text === 'fan')).toBe(false);
    for (const [i, row] of order.entries())
      expect(painter.texts.some((t) => t.text === String(i + 1) && Math.abs(t.y - row.y) < 1)).toBe(true);
    expect(painter.texts.filter((t) => t.text === '3')).toHaveLength(0);
  });

  it('of a distance stand beside the line between its two places', () => {
    const distance = one('distance', {
      places: [
        [0, 0, 0],
        [1, 0, 0],
      ],
      text: '{value:.2f} m',
      aside: 0,
    });
    const { said, scene } = painted([distance]);
    const middle = projectPoint(scene.camera, [0.5, 0, 0], 2);
    // In perspective the middle of the line is a little off that of its picture.
    expect(Math.abs(said('1.00 m').x - 1000 * middle.x)).toBeLessThan(20);
    expect(Math.abs(said('1.00 m').y - 500 * middle.y)).toBeLessThan(20);
  });
});

describe('what can be taken hold of', () => {
  it('goes where it is dragged, as far as it can', () => {
    const by = { x: 30, y: -40 };
    for (const { id } of annotationKinds) {
      const hook = { on: 'place', place: [0.5, 0.5, 0.5], text: 'a' };
      const before = one(id, id === 'label' || id === 'callout' ? hook : { x: 0.5, y: 0.5 });
      // The key stands for a callout that is there.
      const others = id === 'callout-key' ? [one('callout', hook, 'other')] : [];
      const first = painted([...others, before]).box(id);
      if (!first) continue;
      const kind = annotationKind(id);
      expect(kind.moved, id).toBeDefined();
      const setting = {
        width: 1000,
        height: 500,
        box: first,
        anchor: first.anchor,
        project: (place: [number, number, number]) => {
          const at = projectPoint(plain.camera, place, 2);
          return { x: 1000 * at.x, y: 500 * at.y, depth: at.depth };
        },
      };
      const change = kind.moved!(before, by, setting);
      expect(Object.keys(change).length, id).toBeGreaterThan(0);
      const after = painted([...others, { ...before, ...change }]).box(id);
      const went = { x: after.x - first.x, y: after.y - first.y };
      // What is bound to a line goes along it as far as it was dragged that way.
      const bound = ['distance', 'angle', 'diameter'].includes(id);
      if (bound) expect(went.x * by.x + went.y * by.y, id).toBeGreaterThan(0);
      else if (id !== 'caption') {
        expect(went.x, id).toBeCloseTo(by.x, 6);
        expect(went.y, id).toBeCloseTo(by.y, 6);
      }
    }
  });

  it('a caption goes to the other edge', () => {
    const kind = annotationKind('caption');
    const box = painted([one('caption')]).box('caption');
    const setting = { width: 1000, height: 500, box, anchor: null, project: () => null };
    expect(kind.moved!(one('caption'), { x: 0, y: -400 }, setting)).toEqual({ edge: 'top' });
  });
});

describe('marks on the picture', () => {
  const parallel = (): Partial<Scene> => ({
    camera: {
      ...plain.camera,
      projection: 'parallel',
      position: [0.5, 0.5, 5],
      target: [0.5, 0.5, 0.5],
      up: [0, 1, 0],
      height: 2,
    },
  });

  it('a scale bar is as long as it says', () => {
    const { painter, said } = painted([one('scale-bar', { length: 0.4 })], { change: parallel() });
    // Two units are 500 pixels high: 0.4 m are 100 pixels, in four pieces.
    expect(said('0.4 m')).toBeDefined();
    const pieces = painter.shapes.filter(
      ({ corners, fill }) =>
        fill && corners.length === 4 && Math.abs(corners[1][0] - corners[0][0] - 25) < 1e-9,
    );
    expect(pieces).toHaveLength(4);
  });

  it('a scale bar of its own choice is a round length of about a fifth of the picture', () => {
    const { said } = painted([one('scale-bar', { unit: 'mm' })], { change: parallel() });
    // A fifth of 1000 pixels are 0.8 m: the round length below is 500 mm.
    expect(said('500 mm')).toBeDefined();
    expect(painted([one('scale-bar')]).painter.texts.some((t) => t.text.startsWith('≈ '))).toBe(true);
  });

  it('claim no unit where the run states none', () => {
    const bare = { ...run, lengthUnit: null };
    const painter = new PretendedPainter();
    const annotations = [one('scale-bar', { unit: 'mm', length: 0.4 }), one('ruler', { unit: 'mm' })];
    paintWords(
      painter as unknown as CanvasRenderingContext2D,
      {
        scene: { ...plain, ...parallel(), annotations },
        run: bare,
        step: 0,
        spreads: [],
        behind: null,
        bounds: runBounds(run),
        attached: {},
        readings: {},
        curves: {},
      },
      { width: 1000, height: 500 },
    );
    const said = painter.texts.map((t) => t.text);
    expect(said).toContain('0.4');
    expect(said).toContain('x');
    expect(said.some((t) => t.includes('mm'))).toBe(false);
  });

  it('axes point where the coordinates do', () => {
    const { painter, box, said } = painted([one('axes')], { change: parallel() });
    const middle = { x: box('axes').x + box('axes').width / 2, y: box('axes').y + box('axes').height / 2 };
    expect(said('x').x).toBeGreaterThan(middle.x);
    expect(said('x').y).toBeCloseTo(middle.y, 6);
    expect(said('y').y).toBeLessThan(middle.y);
    // z comes towards the camera: a dot in the middle.
    expect(
      painter.shapes.some(({ corners: [a, b] }) => a && b && Math.abs(a[0] + b[0] - 2 * middle.x) < 1e-9),
    ).toBe(true);
  });

  it('a north arrow points north, and nowhere along the line of sight', () => {
    const arrow = one('north', { direction: [-1, 0, 0] });
    const { box, said } = painted([arrow], { change: parallel() });
    expect(said('N').x).toBeLessThan(box('north').x + box('north').width / 2);
    const along = painted([one('north', { direction: [0, 0, 1] })], { change: parallel() });
    expect(along.painter.texts.some((t) => t.text === 'N')).toBe(false);
  });

  it('rulers have their numbers where the coordinates are', () => {
    const { said, scene } = painted([one('ruler', { count: 5 })], { change: parallel() });
    const at = projectPoint(scene.camera, [0.4, 0, 0.5], 2);
    expect(said('0.4').x).toBeCloseTo(1000 * at.x, 6);
    expect(said('x (m)')).toBeDefined();
  });

  it('a grid stands on the sides of the box that lie behind', () => {
    const scene = { ...plain, ...parallel(), annotations: [one('ruler')] };
    const { parts, layers } = standingParts(scene as Scene, { run, bounds: runBounds(run) });
    const [mark] = parts[0].shape.marks;
    if (mark.kind !== 'line') throw new Error('no lines');
    const ends = Array.from(mark.segments, (v) => Array.from(mark.positions.subarray(3 * v, 3 * v + 3)));
    // Seen from above: the floor of the box is drawn, its top is not.
    expect(ends.some(([x, y, z]) => x > 0 && x < 1 && y === 0 && z + run.origin[2] === 0)).toBe(true);
    expect(ends.filter(([x, y, z]) => x > 0 && x < 1 && y > 0 && y < 1 && z + run.origin[2] === 1)).toEqual(
      [],
    );
    expect(layers[0].opacity).toBeLessThan(1);
  });

  it('say which parts are left out, and nothing where that is switched off', () => {
    const hidden = {
      parts: { oven: { ...partLook.plain, hidden: true } },
    };
    const stamp = (change: Partial<Scene>) => painted([], { change }).painter.texts.at(-1)!.text;
    expect(stamp(hidden)).toMatch(/ · without oven$/);
    expect(stamp({ ...hidden, stamp: { ...plain.stamp, notes: false } })).not.toContain('without');
    // Also where no time is shown.
    expect(stamp({ ...hidden, stamp: { ...plain.stamp, visible: false } })).toBe('without oven');
  });
});
