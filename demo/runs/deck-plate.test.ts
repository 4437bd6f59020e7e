import { PNG } from 'pngjs';
import { describe, expect, it } from 'vitest';
import { Drawing } from '../shared/png-file.ts';
import { DeckPlate } from './deck-plate.ts';

const mean = (all: ArrayLike<number>): number => Array.from(all).reduce((a, b) => a + b, 0) / all.length;

describe('the deck plate of the bench', () => {
  it('takes up all the heat it is given when nothing is lost', () => {
    const plate = new DeckPlate(2000, 0);
    for (let n = 0; n < 400; n++) plate.advance(0.25);
    // Energy in over heat capacity: 2000 W for 100 s into 0.8 x 0.5 x 0.012 m3 of 3.7 MJ/(m3 K).
    expect(mean(plate.temperature) - 22).toBeCloseTo((2000 * 100) / (0.8 * 0.5 * 0.012 * 3.7e6), 6);
  });
  it('nears the mean temperature at which loss and heating are even', () => {
    const plate = new DeckPlate(2600, 14_000);
    for (let n = 0; n < 200; n++) plate.advance(0.25);
    expect(mean(plate.temperature) - 22).toBeCloseTo(2600 / (14_000 * 0.8 * 0.5), 2);
  });
  it('is hotter over its element', () => {
    const plate = new DeckPlate();
    for (let n = 0; n < 400; n++) plate.advance(0.25);
    const over = [...plate.temperature].filter((_, c) => plate.heating[c] > 0);
    expect(mean(over)).toBeGreaterThan(mean(plate.temperature) + 3);
  });
});

describe('a drawing', () => {
  it('is a picture that others read, with its strokes where they were put', () => {
    const sheet = new Drawing(40, 30, 10, [0, 0], [250, 250, 250]);
    sheet.stroke(
      [
        [1, 1],
        [3, 1],
      ],
      3,
      [10, 20, 30],
    );
    const read = PNG.sync.read(Buffer.from(sheet.file()));
    const at = (x: number, y: number): number[] => [
      ...read.data.subarray(4 * (y * 40 + x), 4 * (y * 40 + x) + 3),
    ];
    expect([read.width, read.height]).toEqual([40, 30]);
    // One unit up from the lower edge of 30 rows is between rows 19 and 20.
    expect(at(20, 19)).toEqual([10, 20, 30]);
    expect(at(20, 5)).toEqual([250, 250, 250]);
  });
});
