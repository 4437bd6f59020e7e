import { answer } from '#web/server/answer.ts';
import { earlierState, earlierStates } from '#web/server/scenes.ts';

/** Earlier states of a scene, or the document of one of them with `?revision=`. */
export const GET = answer(async ({ params, url }) => {
  const revision = url.searchParams.get('revision');
  if (revision === null) return { states: await earlierStates(params.id!) };
  return earlierState(params.id!, Number.parseInt(revision, 10) || 0);
});
