import { phrasesOf } from '../../language/phrase.ts';
import { wholeNumber } from '../../model/bounded-number.ts';
import type { Vector } from '../../model/vectors.ts';
import { bodyOf, madeKind } from './scenery-kind.ts';
import { bar, joined, rail, type Solid, shifted, turned, vessel } from './solids.ts';

const p = phrasesOf<{ shelves: number }>();

/** A rack on four castors, with sheets one above the other. */
export const trolley = madeKind({
  id: 'trolley',
  offered: 'Trolley',
  purpose: 'a rack on castors with sheets one above the other',
  sizes: {
    length: { label: 'Wide', said: 'wide', metres: 0.66 },
    width: { label: 'Deep', said: 'deep', metres: 0.5 },
    height: { label: 'High', said: 'high', metres: 1.8 },
  },
  own: {
    plain: { shelves: 8 },
    schema: { shelves: wholeNumber().min(0).max(60) },
    suffixes: [{ usual: { shelves: 8 }, phrase: p.row(p.number('shelves'), p.text(' sheets')) }],
    controls: [{ kind: 'number', key: 'shelves', label: 'Sheets', whole: true, range: () => [0, 24] }],
  },
  bodies({ length, width, height, shelves }) {
    const tube = 0.022 * Math.min(length, width) + 0.002 * height;
    const wheel = Math.min(0.06 * height, 0.12 * width);
    const low = 2 * wheel + tube;
    const [x, y, top] = [length / 2 - tube, width / 2 - tube, height - tube];
    const corners: Vector[] = [
      [x, y, 0],
      [-x, y, 0],
      [-x, -y, 0],
      [x, -y, 0],
    ];
    const level = (z: number): Solid =>
      rail(
        [...corners, corners[0]].map(([a, b]): Vector => [a, b, z]),
        tube,
      );
    const posts = corners.map(([a, b]) => bar([a, b, low], [a, b, top], tube));
    const shelfAt = (i: number): number => low + ((i + 0.6) * (top - low)) / Math.max(shelves, 1);
    const runners = Array.from({ length: shelves }, (_, i) => i).flatMap((i) =>
      [1, -1].map((side) => bar([side * x, -y, shelfAt(i)], [side * x, y, shelfAt(i)], 0.45 * tube, 8)),
    );
    const sheet = { length: length - 3.4 * tube, width: width - 1.2 * tube, height: 0.03 * width };
    const sheets = Array.from({ length: shelves }, (_, i) =>
      shifted(
        vessel(sheet, {
          foot: sheet.height,
          thick: 0.15 * sheet.height,
          rim: 0.3 * sheet.height,
          corner: 0.05 * width,
        }),
        [0, 0, shelfAt(i) + 0.5 * tube],
      ),
    );
    // Wheels end where the frame does.
    const feet = corners.map(([a, b]): Vector => [a, Math.sign(b) * (width / 2 - wheel), wheel]);
    const castors = feet.map((at) => shifted(lyingWheel(wheel), at));
    const forks = feet.map(([a, b, z], i) => bar([a, b, z], [a, corners[i][1], low], 0.6 * tube));
    return [
      bodyOf(joined(level(low), level(top), ...posts, ...runners, ...forks), 'brushed-steel'),
      ...(shelves > 0 ? [bodyOf(joined(...sheets), 'satin-aluminium', null, 50)] : []),
      bodyOf(joined(...castors), 'rubber'),
    ];
  },
});

/** A wheel that runs along y, about its middle. */
function lyingWheel(radius: number): Solid {
  const half = 0.3 * radius;
  const { points, triangles } = turned([
    [0.3 * radius, -half],
    [0.9 * radius, -half],
    [radius, -0.7 * half],
    [radius, 0.7 * half],
    [0.9 * radius, half],
    [0.3 * radius, half],
  ]);
  // From lying on its side to standing: a quarter turn about y.
  const out: number[] = [];
  for (let i = 0; i < points.length; i += 3) out.push(points[i + 2], points[i + 1], -points[i]);
  return { points: out, triangles };
}
