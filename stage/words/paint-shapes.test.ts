import { describe, expect, it } from 'vitest';
import type { Shape } from '#core/scene/annotations/drawing.ts';
import { overlaps, shifted } from '#core/scene/annotations/drawing.ts';
import { backdropById } from '#core/scene/backdrops/registry.ts';
import { PretendedPainter } from '../../tests/pretended-painter.ts';
import { paintShapes } from './paint-shapes.ts';

const tone = backdropById('paper');
const sheet = { tone, behind: null, size: { width: 800, height: 400 } };

function painted(...shapes: Shape[]): PretendedPainter {
  const painter = new PretendedPainter();
  paintShapes(painter as unknown as CanvasRenderingContext2D, shapes, sheet);
  return painter;
}

const word: Shape = {
  kind: 'text',
  text: 'a',
  x: 10,
  y: 20,
  size: 30,
  weight: 500,
  align: 'left',
  letters: 'plain',
  ink: null,
  halo: true,
};

describe('shapes on a picture', () => {
  it('are words, with a halo only where it is asked for', () => {
    const painter = painted(word, { ...word, text: 'b', halo: false });
    expect(painter.texts).toMatchObject([
      { text: 'a', x: 10, y: 20, size: 30, align: 'left' },
      { text: 'b', x: 10, y: 20, size: 30, align: 'left' },
    ]);
    expect(painter.halos).toEqual(['a']);
  });

  it('have the colour of the words of the backdrop unless they have their own', () => {
    const disc: Shape = { kind: 'disc', x: 5, y: 5, radius: 2, fill: null, rim: null };
    const fills = painted(disc, { ...disc, fill: '#123456' }).shapes.map((s) => s.fill);
    expect(fills).toEqual([tone.ink, '#123456']);
  });

  it('are lines, their halo beneath them', () => {
    const line: Shape = {
      kind: 'line',
      spots: [
        [0, 0],
        [10, 5],
        [20, 0],
      ],
      width: 2,
      ink: '#111111',
      halo: true,
    };
    const { shapes } = painted(line);
    expect(shapes).toHaveLength(2);
    for (const { corners, fill } of shapes) {
      expect(corners).toEqual([
        [0, 0],
        [10, 5],
        [20, 0],
      ]);
      expect(fill).toBeNull();
    }
    expect(painted({ ...line, halo: false }).shapes).toHaveLength(1);
  });

  it('are areas and boxes as opaque as they say, what comes after them whole again', () => {
    const painter = painted(
      {
        kind: 'area',
        corners: [
          [0, 0],
          [4, 0],
          [0, 4],
        ],
        fill: '#ff0000',
        opacity: 0.5,
      },
      {
        kind: 'box',
        box: { x: 1, y: 2, width: 30, height: 40 },
        radius: 3,
        fill: '#00ff00',
        opacity: 0.25,
        rim: { ink: null, width: 2 },
      },
    );
    expect(painter.globalAlpha).toBe(1);
    expect(painter.shapes.map((s) => s.fill)).toEqual(['#ff0000', '#00ff00', null]);
    expect(painter.shapes[1].corners[2]).toEqual([31, 42]);
  });

  it('of a ground are nothing where no plate is needed, and a plate where one is asked for', () => {
    const ground: Shape = {
      kind: 'ground',
      box: { x: 100, y: 100, width: 50, height: 20 },
      ground: 'as needed',
      ink: null,
      pad: 4,
    };
    expect(painted(ground).fills).toEqual([]);
    expect(painted({ ...ground, ground: 'plate' }).fills[0]).toMatchObject({
      x: 96,
      y: 96,
      width: 58,
      height: 28,
    });
  });
});

describe('shapes elsewhere', () => {
  it('are the same ones, moved', () => {
    const box = { x: 1, y: 2, width: 3, height: 4 };
    const all: Shape[] = [
      word,
      { kind: 'line', spots: [[0, 0]], width: 1, ink: null, halo: false },
      { kind: 'area', corners: [[1, 1]], fill: null, opacity: 1 },
      { kind: 'disc', x: 0, y: 0, radius: 1, fill: null, rim: null },
      { kind: 'box', box, radius: 0, fill: null, opacity: 1, rim: null },
      { kind: 'image', box, source: '', opacity: 1 },
      { kind: 'ground', box, ground: 'none', ink: null, pad: 0 },
    ];
    const moved = shifted(all, 10, 20);
    expect(moved[0]).toMatchObject({ x: 20, y: 40, text: 'a' });
    expect(moved[1]).toMatchObject({ spots: [[10, 20]] });
    expect(moved[2]).toMatchObject({ corners: [[11, 21]] });
    expect(moved[3]).toMatchObject({ x: 10, y: 20 });
    for (const shape of moved.slice(4))
      expect(shape).toMatchObject({ box: { x: 11, y: 22, width: 3, height: 4 } });
    // The given ones stay.
    expect(shifted(moved, -10, -20)).toEqual(all);
  });

  it('share area only where they lie over one another, not where they touch', () => {
    const a = { x: 0, y: 0, width: 10, height: 10 };
    expect(overlaps(a, { x: 9, y: 9, width: 5, height: 5 })).toBe(true);
    expect(overlaps(a, { x: 10, y: 0, width: 5, height: 5 })).toBe(false);
    expect(overlaps(a, { x: 2, y: 2, width: 1, height: 1 })).toBe(true);
  });
});
