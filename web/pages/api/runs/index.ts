import { answer } from '#web/server/answer.ts';
import { knownRuns } from '#web/server/known-runs.ts';

/** All runs, as formulas and charts name them. */
export const GET = answer(knownRuns);
