import { answer, NotFound } from '#web/server/answer.ts';
import { removeFilm } from '#web/server/films-of-run.ts';

/** Removes films, made or under way, with the pictures they are made of. */
export const DELETE = answer(async ({ params }) => {
  if (!(await removeFilm(params.id!))) throw new NotFound('These films are no longer known.');
});
