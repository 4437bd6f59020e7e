import { wholeNumber } from '../model/bounded-number.ts';
import { LARGEST_SIDE } from '../model/largest-side.ts';
import { z } from '../model/schema.ts';
import { USUAL_NAMES } from './batch-names.ts';

const side = wholeNumber().min(16).max(LARGEST_SIDE);

/**
 * Where colour scales begin and end in the pictures of a batch: where they do in the run a shot was kept of; in each run as
 * its own values have it; or in all at the extremes over all of its runs and steps.
 */
export const scalesWish = z.enum(['kept', 'each', 'shared']);

export type ScalesWish = z.infer<typeof scalesWish>;

/** What is chosen for a batch, as it is kept with the runs it is made of. */
export const batchSettingsSchema = z.object({
  /** Ids of shots. */
  shots: z.array(z.string().max(200)).max(500),
  /** Which runs of a set: all that are shown, or those that are marked. */
  runs: z.enum(['shown', 'marked']),
  /** In words; see `readStepsWish`. */
  steps: z.string().max(500),
  sizes: z.array(z.object({ width: side, height: side })).max(20),
  /** Ids of picture formats. */
  formats: z.array(z.string().max(20)).max(10),
  /** Ids of film formats, for shots in which something moves. */
  films: z.array(z.string().max(20)).max(10),
  /** Names of looks; null for that of the shot. */
  looks: z.array(z.string().max(100).nullable()).max(20),
  /** See `batchNames`. */
  names: z.string().max(1000),
  passes: wholeNumber().min(1).max(4096),
  /** What becomes of the ends of the colour scales: of all, and of those of single quantities, by their keys. */
  scales: scalesWish,
  scaleOf: z.record(z.string(), scalesWish),
  transparent: z.boolean(),
});

export type BatchSettings = z.infer<typeof batchSettingsSchema>;

export const usualBatch: BatchSettings = {
  shots: [],
  runs: 'shown',
  steps: 'as kept',
  sizes: [{ width: 1920, height: 1080 }],
  formats: ['png'],
  films: [],
  looks: [null],
  names: USUAL_NAMES,
  passes: 48,
  scales: 'shared',
  scaleOf: {},
  transparent: false,
};
