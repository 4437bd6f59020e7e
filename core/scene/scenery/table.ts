import { bodyOf, madeKind } from './scenery-kind.ts';
import { block, joined, shifted } from './solids.ts';

/** A bench to work at: a thick top on a frame of square tube. */
export const table = madeKind({
  id: 'table',
  offered: 'Table',
  purpose: 'a work bench for the model to stand on',
  sizes: {
    length: { label: 'Long', said: 'long', metres: 1.8 },
    width: { label: 'Deep', said: 'deep', metres: 0.8 },
    height: { label: 'High', said: 'high', metres: 0.9 },
  },
  bodies({ length, width, height }) {
    const thick = Math.min(0.045 * length, 0.2 * height);
    const leg = Math.min(0.5 * width, 0.8 * thick);
    const inset = 0.6 * leg + 0.02 * width;
    const [x, y] = [length / 2 - inset - leg / 2, width / 2 - inset - leg / 2];
    const legs = [1, -1].flatMap((i) =>
      [1, -1].map((j) => shifted(block(leg, leg, height - thick, 0.12 * leg), [i * x, j * y, 0])),
    );
    const low = 0.16 * height;
    const rails = [
      ...[1, -1].map((i) => shifted(block(0.7 * leg, 2 * y, 0.7 * leg, 0.1 * leg), [i * x, 0, low])),
      shifted(block(2 * x, 0.7 * leg, 0.7 * leg, 0.1 * leg), [0, -y, low]),
      ...[1, -1].map((j) =>
        shifted(block(2 * x, 0.6 * leg, leg, 0.1 * leg), [0, j * y, height - thick - 1.02 * leg]),
      ),
    ];
    return [
      bodyOf(shifted(block(length, width, thick, 0.16 * thick), [0, 0, height - thick]), 'oak'),
      bodyOf(joined(...legs, ...rails), 'powder-coat', '#5a5d60'),
    ];
  },
});
