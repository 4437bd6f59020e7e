import { answer } from '#web/server/answer.ts';
import { listedRuns } from '#web/server/run-sets.ts';

/** All runs, as tables of sets show them. */
export const GET = answer(() => listedRuns());
