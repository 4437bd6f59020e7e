import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { easeSchema } from './ease.ts';

/** No film is longer than this, in seconds. */
export const LONGEST_REEL = 24 * 3600;

/** Two keys of a lane are further apart than this, in seconds; nearer ones are one. */
export const KEY_GAP = 1e-6;

/** How a camera goes through its keys. */
const waySchema = z.object({
  /** It passes them in one curve instead of turning at each. */
  smooth: z.boolean(),
  /** It keeps its speed from the first to the last of them, whatever the times between. */
  steady: z.boolean(),
});

export type Way = z.infer<typeof waySchema>;

const keySchema = z.object({
  /** In seconds from the beginning of the film. */
  at: boundedNumber().min(0).max(LONGEST_REEL),
  /** What the address of the lane holds then. */
  value: z.unknown(),
  /** How it goes on from here. */
  ease: easeSchema,
  /** Of a camera: how it goes from here to the next key that says so; as its lane does where none has. */
  way: waySchema.optional(),
});

/** One value of the scene over the time of the film. */
export const laneSchema = z.object({
  id: z.string().min(1).max(200),
  /** Where the value is; see `Address`. */
  of: z.array(z.string().min(1).max(300)).min(1).max(12),
  /** Switched off: its keys are kept. */
  off: z.boolean(),
  /** Of a camera, where its keys do not say otherwise. */
  ...waySchema.shape,
  /** In the order of their times. */
  keys: z.array(keySchema).min(1).max(20_000),
});

export type Lane = z.infer<typeof laneSchema>;
export type Key = Lane['keys'][number];

/** A lane before it has a name. */
export interface NewLane extends Partial<Pick<Lane, 'smooth' | 'steady'>> {
  of: readonly string[];
  keys: readonly Key[];
}

/** Keys in the order of their times; of two at one time the later given one counts. */
export function inOrder(keys: readonly Key[]): Key[] {
  const sorted = keys.map((key, i) => ({ key, i })).sort((a, b) => a.key.at - b.key.at || a.i - b.i);
  const out: Key[] = [];
  for (const { key } of sorted) {
    if (out.length > 0 && key.at - out[out.length - 1].at < KEY_GAP) out.pop();
    out.push(key);
  }
  return out;
}

/** How a camera goes on from each of the keys of its lane. */
export function waysOf({ keys, smooth, steady }: Lane): Way[] {
  let now: Way = { smooth, steady };
  return keys.map(({ way }) => (now = way ?? now));
}

export const sameAddress = (a: readonly string[], b: readonly string[]): boolean =>
  a.length === b.length && a.every((entry, i) => entry === b[i]);
