import { answer } from '#web/server/answer.ts';
import { sourceState } from '#web/server/run-changes.ts';

/** How the files of a run stand now against what was read. */
export const GET = answer(async ({ params }) => sourceState(params.id!));
