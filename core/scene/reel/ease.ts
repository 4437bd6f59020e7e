import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';

/**
 * How a value goes on from a key to the next: it stays and changes there, it goes evenly, or along a cubic Bézier curve
 * from (0, 0) to (1, 1) with two handles x1, y1, x2, y2, as CSS has them (W3C, CSS Easing Functions Level 1).
 */
export type Ease =
  | { kind: 'hold' }
  | { kind: 'even' }
  | { kind: 'curve'; handles: [number, number, number, number] };

/** Time goes on whatever the handles are. */
const time = () => boundedNumber().min(0).max(1);
/** How far a value may go beyond its ends, as a share of the way. */
const value = () => boundedNumber().min(-2).max(3);

export const easeSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('hold') }),
  z.object({ kind: z.literal('even') }),
  z.object({ kind: z.literal('curve'), handles: z.tuple([time(), value(), time(), value()]) }),
]);

export const even: Ease = { kind: 'even' };
export const hold: Ease = { kind: 'hold' };

/** Those that have names, with the handles that the W3C gives its own names; `said` stands in sentences. */
export const namedEases: readonly { said: string; name: string; ease: Ease }[] = [
  { said: 'evenly', name: 'even', ease: even },
  { said: 'ease in', name: 'ease in', ease: { kind: 'curve', handles: [0.42, 0, 1, 1] } },
  { said: 'ease out', name: 'ease out', ease: { kind: 'curve', handles: [0, 0, 0.58, 1] } },
  { said: 'ease both ends', name: 'both ends', ease: { kind: 'curve', handles: [0.42, 0, 0.58, 1] } },
  { said: 'hold', name: 'hold', ease: hold },
];

/** Slow at its beginning and at its end. */
export const bothEnds: Ease = namedEases[3].ease;
