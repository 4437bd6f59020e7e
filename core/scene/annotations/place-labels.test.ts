import { describe, expect, it } from 'vitest';
import { overlaps } from './drawing.ts';
import { boxAt, crossing, type LabelToPlace, leaderEnd, placeLabels } from './place-labels.ts';

const size = { width: 1280, height: 720 };

/** Evenly scattered, always the same: the fractional parts of multiples of two irrational numbers. */
const anchors = (count: number, within = { x: 300, y: 150, width: 680, height: 420 }) =>
  Array.from({ length: count }, (_, i) => ({
    x: within.x + within.width * ((i * 0.754877666) % 1),
    y: within.y + within.height * ((i * 0.569840291) % 1),
  }));

const labelsAt = (places: { x: number; y: number }[]): LabelToPlace[] =>
  places.map((anchor, i) => ({ anchor, width: 70 + 11 * (i % 4), height: 24, fixed: null }));

function faults(labels: LabelToPlace[], middles: { x: number; y: number }[]) {
  const boxes = labels.map((l, i) => boxAt(middles[i], l));
  const ends = labels.map((l, i) => leaderEnd(l.anchor, boxes[i]));
  let crossings = 0;
  let covered = 0;
  for (let i = 0; i < labels.length; i++)
    for (let k = i + 1; k < labels.length; k++) {
      if (crossing(labels[i].anchor, ends[i], labels[k].anchor, ends[k])) crossings++;
      if (overlaps(boxes[i], boxes[k])) covered++;
    }
  const outside = boxes.filter(
    (b) => b.x < 0 || b.y < 0 || b.x + b.width > size.width || b.y + b.height > size.height,
  );
  return { crossings, covered, outside: outside.length };
}

describe('words that hang', () => {
  it.each([1, 2, 5, 10, 16])('find room for %i, with no lines that cross and none over another', (count) => {
    const labels = labelsAt(anchors(count));
    expect(faults(labels, placeLabels(labels, [], size))).toEqual({ crossings: 0, covered: 0, outside: 0 });
  });

  it('find room where many hang close together', () => {
    const labels = labelsAt(anchors(8, { x: 600, y: 330, width: 60, height: 60 }));
    expect(faults(labels, placeLabels(labels, [], size))).toEqual({ crossings: 0, covered: 0, outside: 0 });
  });

  it('stay within the picture, at its corners too', () => {
    const corners = [
      { x: 2, y: 2 },
      { x: 1278, y: 2 },
      { x: 2, y: 718 },
      { x: 1278, y: 718 },
    ];
    const labels = labelsAt(corners);
    expect(faults(labels, placeLabels(labels, [], size)).outside).toBe(0);
  });

  it('stand beside what is there already', () => {
    const legend = { x: 700, y: 100, width: 200, height: 500 };
    const labels = labelsAt([{ x: 690, y: 350 }]);
    const [middle] = placeLabels(labels, [legend], size);
    expect(overlaps(boxAt(middle, labels[0]), legend)).toBe(false);
  });

  it('stay where they were put, and others give way', () => {
    const [first, ...rest] = labelsAt(anchors(6));
    const fixed = { x: 640, y: 360 };
    const labels = [{ ...first, fixed }, ...rest];
    const middles = placeLabels(labels, [], size);
    expect(middles[0]).toEqual(fixed);
    expect(faults(labels, middles).covered).toBe(0);
  });

  it('stand in the same place for the same picture at twice its size', () => {
    const labels = labelsAt(anchors(7));
    const large = labels.map((l) => ({
      anchor: { x: 2 * l.anchor.x, y: 2 * l.anchor.y },
      width: 2 * l.width,
      height: 2 * l.height,
      fixed: null,
    }));
    const small = placeLabels(labels, [], size);
    const twice = placeLabels(large, [], { width: 2560, height: 1440 });
    for (const [i, at] of twice.entries()) {
      expect(at.x).toBeCloseTo(2 * small[i].x, 6);
      expect(at.y).toBeCloseTo(2 * small[i].y, 6);
    }
  });
});
