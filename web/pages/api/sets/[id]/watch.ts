import { answer } from '#web/server/answer.ts';
import { watchStateOf } from '#web/server/watched-sets.ts';

/** What came into the folder that a set watches; see `WatchState`. */
export const GET = answer(({ params }) => watchStateOf(params.id!));
