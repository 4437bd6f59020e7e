import { answer, readBody } from '#web/server/answer.ts';
import { filmsOfRun } from '#web/server/films-of-run.ts';
import { filmJob, filmOrder } from '#web/server/jobs/film.ts';
import { jobs } from '#web/server/jobs/queue.ts';
import { runById } from '#web/server/run-changes.ts';

/** The films of the run that are made in the background, or were; see `FilmAtWork`. */
export const GET = answer(async ({ params }) => ({ films: await filmsOfRun(params.id!) }));

/** Starts making films of a scene of the run. */
export const POST = answer(async ({ params, request }) => {
  const run = params.id!;
  await runById(run);
  const order = await readBody(request, filmOrder);
  return { job: await jobs.start(filmJob, { ...order, run }) };
});
