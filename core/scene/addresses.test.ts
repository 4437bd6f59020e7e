import { beforeAll, describe, expect, it } from 'vitest';
import { fullScene } from '../../tests/attack/documents.ts';
import { ovenRun } from '../../tests/sample-run.ts';
import { type Address, keyable, read, write } from './addresses.ts';
import { blended, blendOf } from './blending.ts';
import { type Scene, sceneSchema } from './document.ts';
import { applyEdit, type Edit } from './edits.ts';
import { partLook } from './things/part-look.ts';

let scene: Scene;
beforeAll(async () => {
  const full = fullScene(await ovenRun());
  const [first, ...rest] = full.layers;
  scene = {
    ...full,
    layers: [{ ...first, colour: { kind: 'plain', colour: '#102030' } }, ...rest],
    parts: {
      oven: { ...partLook.plain, colour: '#ff0000' },
      chain: { ...partLook.plain, hidden: true },
    },
  };
});
const name = (address: Address): string => address.join(' / ');

describe('addresses', () => {
  it('lead to every value that can have keys, each once and with words for it', () => {
    const all = keyable(scene);
    expect(new Set(all.map((k) => name(k.address))).size).toBe(all.length);
    for (const { address, value, name: said } of all) {
      expect(read(scene, address), name(address)).toEqual(value);
      expect(said).toMatch(/\S of \S|^the /);
    }
    const found = all.map((k) => name(k.address));
    for (const wanted of [
      'light / contact',
      'backdrop / kind',
      'camera',
      'camera / fieldOfView',
      `scales / ${scene.scales[0].id} / legend / x`,
      `scales / ${scene.scales[0].id} / bands`,
      'layers / layer-0 / opacity',
      'layers / layer-0 / colour / colour',
      'layers / layer-1 / chain / step-1 / offset',
      'layers / layer-1 / chain / step-1 / off',
      'parts / oven / colour',
      'parts / chain / hidden',
    ])
      expect(found).toContain(wanted);
  });
  it('written to give a scene that is valid, with just that value changed, and leave the given one alone', () => {
    const before = structuredClone(scene);
    for (const { address, value, between } of keyable(scene)) {
      const other = between(value, value, 0.5);
      expect(read(write(scene, address, other), address), name(address)).toEqual(other);
      expect(sceneSchema.safeParse(write(scene, address, other)).success, name(address)).toBe(true);
    }
    const moved = write(scene, ['layers', 'layer-1', 'chain', 'step-1', 'offset'], 0.123);
    expect(read(moved, ['layers', 'layer-1', 'chain', 'step-1', 'offset'])).toBe(0.123);
    expect(moved.layers[0]).toBe(scene.layers[0]);
    expect(moved.light).toBe(scene.light);
    expect(scene).toEqual(before);
  });
  it('survive that layers and steps are moved, and that others come and go', () => {
    const address = ['layers', 'layer-1', 'chain', 'step-1', 'offset'];
    const edits: Edit[] = [
      { type: 'layer.move', id: 'layer-1', to: 0 },
      { type: 'chain.add', id: 'layer-1', step: { op: 'edges', options: {}, off: false } },
      { type: 'chain.move', id: 'layer-1', step: 'step-1', to: 1 },
      { type: 'layer.remove', id: 'layer-0' },
      { type: 'layer.duplicate', id: 'layer-1', newId: 'twin' },
    ];
    const value = read(scene, address);
    let now = scene;
    for (const edit of edits) {
      now = applyEdit(now, edit);
      expect(read(now, address)).toBe(value);
    }
    expect(now.layers.find((l) => l.id === 'layer-1')!.chain.map((s) => s.op)).toEqual(['edges', 'section']);
  });
  it('of what is gone, or never was, are nothing, and writing there changes nothing', () => {
    for (const address of [
      ['layers', 'gone', 'opacity'],
      ['layers', 'layer-1', 'chain', 'gone', 'offset'],
      ['layers', 'layer-1', 'chain', 'step-1', 'nothing'],
      ['scales', 'gone', 'map'],
      ['parts', 'rack', 'colour'],
      ['constructor', 'name'],
      ['light', '__proto__'],
      ['step', 'deep'],
    ]) {
      expect(read(scene, address), name(address)).toBeUndefined();
      expect(write(scene, address, 1)).toBe(scene);
    }
  });
  it('reach options that a step leaves to what is usual', () => {
    const bare = {
      ...scene.layers[1],
      id: 'bare',
      chain: [{ id: 'a', op: 'section', options: { normal: [0, 0, 1], offset: 0 }, off: false }],
    };
    const one: Scene = { ...scene, layers: [bare] };
    const count = ['layers', 'bare', 'chain', 'a', 'count'];
    expect(read(one, count)).toBe(1);
    expect(read(write(one, count, 4), count)).toBe(4);
  });
});

describe('values on their way from one key to the next', () => {
  it('are the first at the beginning and the second at the end, whatever they are', () => {
    for (const { address, value, between } of keyable(scene)) {
      const other = JSON.parse(JSON.stringify(value));
      expect(between(value, other, 0), name(address)).toBe(value);
      expect(between(value, other, 1), name(address)).toBe(other);
    }
  });
  it('go evenly, whole ones in steps, what cannot be blended at the end', () => {
    expect(blended('number', 1, 3, 0.25)).toBe(1.5);
    // An opening is a number, however it is told.
    for (const kind of ['number', 'focal length'] as const)
      expect(blendOf({ kind, key: 'fieldOfView', label: '', range: (): [number, number] => [2, 120] })).toBe(
        'number',
      );
    expect(blended('whole', 1, 8, 0.5)).toBe(5);
    expect(blended('numbers', [0, 2], [4, 2], 0.25)).toEqual([1, 2]);
    expect(blended('numbers', [[0, 1]], [[1, 0]], 0.5)).toEqual([[0.5, 0.5]]);
    expect(blended('numbers', [0, 2], [4], 0.5)).toEqual([0, 2]);
    expect(blended('hold', 'a', 'b', 0.99)).toBe('a');
    expect(blended('number', null, 4, 0.5)).toBe(null);
  });
  it('as colours look as far on as they are', () => {
    // L* 50 is a reflectance of 18.4 %, 119 in sRGB (CIE 15, IEC 61966-2-1; from memory): half of 255 would be too bright.
    expect(blended('colour', '#000000', '#ffffff', 0.5)).toBe('#777777');
    expect(blended('colour', '#102030', '#102030', 0.5)).toBe('#102030');
  });
  it('as directions turn at an even rate and keep their length', () => {
    const half = blended('direction', [1, 0, 0], [0, 1, 0], 1 / 3) as number[];
    expect(half[0]).toBeCloseTo(Math.cos(Math.PI / 6), 12);
    expect(half[1]).toBeCloseTo(Math.sin(Math.PI / 6), 12);
    const back = blended('direction', [0, 0, 2], [0, 0, -2], 0.5) as number[];
    expect(Math.hypot(...back)).toBeCloseTo(2, 12);
    expect(back[2]).toBeCloseTo(0, 12);
  });
  it('as levels go evenly where they are of one kind and number', () => {
    const list = (...values: number[]) => ({ kind: 'list' as const, values });
    expect(blended('levels', list(1, 2), list(3, 6), 0.5)).toEqual(list(2, 4));
    expect(blended('levels', list(1, 2), list(3), 0.5)).toEqual(list(1, 2));
    const even = (low: number | null, high: number, count = 3) => ({
      kind: 'count' as const,
      count,
      low,
      high,
    });
    expect(blended('levels', even(0, 2), even(2, 6), 0.5)).toEqual(even(1, 4));
    expect(blended('levels', even(0, 2), even(2, 6, 4), 0.5)).toEqual(even(0, 2));
    expect(blended('levels', even(null, 2), even(2, 6), 0.5)).toEqual(even(null, 2));
  });
  it('as a camera it goes around what it looks at, and comes nearer by the same ratio in the same time', () => {
    const camera = {
      ...scene.camera,
      target: [0, 0, 0] as [number, number, number],
      up: [0, 0, 1] as [number, number, number],
    };
    const a = { ...camera, position: [8, 0, 0] as [number, number, number] };
    const b = { ...camera, position: [0, 2, 0] as [number, number, number] };
    const { between } = keyable(scene).find((k) => name(k.address) === 'camera')!;
    const half = between(a, b, 0.5) as typeof camera;
    expect(Math.hypot(...half.position)).toBeCloseTo(4, 12);
    expect(half.position[0]).toBeCloseTo(half.position[1], 12);
    expect(half.up).toEqual([0, 0, 1]);
  });
});
