import { rm } from 'node:fs/promises';
import { type TrackBeside, tracksBeside } from '#core/motion/web-vtt.ts';
import { readScene } from '#core/scene/document.ts';
import type { FilmAtWork } from '#web/desks/give-out/film-at-work.ts';
import { filmJob } from './jobs/film.ts';
import type { JobState } from './jobs/queue.ts';
import { jobs } from './jobs/registry.ts';
import type { FilmMade, FilmOrder } from './make-film.ts';
import { folderOfJob } from './render-pictures.ts';
import { inStore } from './store-trouble.ts';

/** The films of a run that are made or waited for, and those that were not removed since; the latest first. */
export async function filmsOfRun(run: string): Promise<FilmAtWork[]> {
  const found = await jobs.list(filmJob, { run });
  return found.map(({ payload, state }) => filmAtWork(payload, state));
}

/** Forgets a film, made or not, with its pictures and files; whether there was one. */
export async function removeFilm(job: string): Promise<boolean> {
  if (!(await jobs.forget(filmJob, job))) return false;
  await inStore(() => rm(folderOfJob(job), { recursive: true, force: true }));
  return true;
}

/** What goes beside the film of a document; nothing where this cannot be read any more. */
function tracksOf(scene: unknown): TrackBeside[] {
  try {
    return tracksBeside(readScene(scene));
  } catch {
    return [];
  }
}

function filmAtWork({ scene, width, height, films }: FilmOrder, state: JobState): FilmAtWork {
  const { name } = scene as { name?: unknown };
  const made = state.result as FilmMade | null;
  return {
    job: state.id,
    name: typeof name === 'string' ? name : '',
    width,
    height,
    outlets: films.map((f) => ('pictures' in f ? f : { film: f.format })),
    tracks: made ? tracksOf(scene) : [],
    state: state.state,
    done: state.done,
    remaining: state.remaining,
    ahead: state.ahead,
    pictures: made?.pictures ?? null,
    poster: made?.poster ?? null,
    problem: state.problem,
  };
}
