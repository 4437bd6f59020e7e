import { describe, expect, it } from 'vitest';
import { hexBlockBetween } from '../../tests/made-solids.ts';
import { asked, onCells, onPoints, piece } from '../../tests/measured-pieces.ts';
import { SentenceReader } from '../language/sentence-reader.ts';
import { angleBetween, type DistanceOptions, distanceBetween } from './between.ts';
import { valueAt } from './value-at.ts';

const mesh = hexBlockBetween(1, 0, 2);
const at = (...place: number[]) => ({ kind: 'place', place });
/** The number of the node at a corner of the cube from 0 to 2. */
const node = (...corner: number[]): number =>
  [0, 1, 2, 3, 4, 5, 6, 7].find((i) => corner.every((v, k) => mesh.points[3 * i + k] === v))!;
const nodeAt = (...corner: number[]) => ({ kind: 'node', index: node(...corner), part: 'oven' });

describe('distances', () => {
  it('run between places, nodes and the middles of cells, in the coordinates of the files', () => {
    expect(asked(distanceBetween, piece(mesh), { from: at(1, 2, 3), to: at(4, 6, 3) }).value).toBe(5);
    const moved = piece(mesh, {}, [10, 0, 0]);
    expect(asked(distanceBetween, moved, { from: at(10, 0, 0), to: nodeAt(2, 0, 0) })).toEqual({
      value: 2,
      place: [12, 0, 0],
      between: [
        [10, 0, 0],
        [12, 0, 0],
      ],
    });
    const middle = { kind: 'cell', index: 0, part: 'oven' };
    expect(asked(distanceBetween, moved, { from: nodeAt(0, 0, 0), to: middle }).value).toBeCloseTo(
      Math.sqrt(3),
      6,
    );
  });
  it('of what is not there say what that is', () => {
    const missing = { kind: 'node', index: 99, part: 'oven' };
    expect(asked(distanceBetween, piece(mesh), { from: at(0, 0, 0), to: missing })).toEqual({
      lacking: 'node 99 of "oven"',
    });
    const elsewhere = { kind: 'cell', index: 0, part: 'left tin' };
    expect(asked(distanceBetween, piece(mesh), { from: elsewhere, to: at(0, 0, 0) })).toEqual({
      lacking: 'cell 0 of "left tin"',
    });
  });
  it('are said as they are read', () => {
    const setting = { lengthUnit: 'm', quantities: [], exact: true };
    for (const text of [
      'distance from (0, 1.5, -2) m to node 12 of rack',
      'distance from cell 3 of "left, tin" to node 0 of rack 2',
    ]) {
      const into: Partial<DistanceOptions> = {};
      const reader = new SentenceReader(text);
      expect(distanceBetween.phrase.read(reader, into, setting) && reader.done, text).toBe(true);
      const said = distanceBetween.phrase.say(into as DistanceOptions, setting)!;
      expect(said.map((p) => p.text).join('')).toBe(text);
    }
  });
});

describe('angles', () => {
  it('are those at the first place, of any size', () => {
    const angle = (a: number[], b: number[]) =>
      asked(angleBetween, piece(mesh), { at: at(0, 0, 0), from: at(...a), to: at(...b) }).value;
    expect(angle([1, 0, 0], [0, 3, 0])).toBeCloseTo(90, 10);
    expect(angle([1, 0, 0], [-2, 0, 0])).toBeCloseTo(180, 10);
    expect(angle([1, 0, 0], [1, 1e-8, 0])).toBeCloseTo((1e-8 * 180) / Math.PI, 15);
    const corner = { at: nodeAt(0, 0, 0), from: nodeAt(2, 0, 0), to: nodeAt(2, 2, 2) };
    expect(asked(angleBetween, piece(mesh), corner).value).toBeCloseTo(54.7356103, 5);
    expect(
      asked(angleBetween, piece(mesh), { at: at(0, 0, 0), from: at(0, 0, 0), to: at(1, 0, 0) }).lacking,
    ).toMatch(/two of the places are the same/);
  });
});

describe('values at what is picked', () => {
  const on = piece(mesh, { f: onPoints(mesh, (x, y) => 3 * x + y), g: onCells([7]) });
  it('are those of the node or cell, or the mean of what is around it', () => {
    expect(asked(valueAt, on, { picked: nodeAt(2, 0, 0) })).toEqual({ value: 6, place: [2, 0, 0] });
    expect(asked(valueAt, on, { picked: { kind: 'cell', index: 0, part: 'oven' } })).toEqual({
      value: 4,
      place: [1, 1, 1],
    });
    expect(asked(valueAt, on, { field: 'g', picked: nodeAt(2, 2, 2) }).value).toBe(7);
    expect(asked(valueAt, on, { picked: { kind: 'node', index: 8, part: 'oven' } })).toEqual({
      lacking: 'node 8 of "oven"',
    });
  });
});
