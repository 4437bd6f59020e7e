import { useCallback, useEffect, useState } from 'react';
import type { FileProblem } from '#core/model/read-error.ts';
import { ask, askFile, problemFrom } from '#engine/server-requests.ts';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { Progress } from '#web/desks/shared/Progress.tsx';
import { saveFile } from '#web/desks/shared/save-file.ts';
import type { FilmAtWork } from './film-at-work.ts';
import { filmFileNames, outletNamed, posterName, sayOutlet } from './film-names.ts';
import { SaveTracks } from './MadeFilm.tsx';

/** How often it is asked how far they are, in milliseconds. */
const ASKED_EVERY = 1000;

/** Films of a run that the server makes in the background. */
export interface FilmsAtWorkState {
  films: readonly FilmAtWork[];
  problem: FileProblem | null;
  /**
   * Begins, ends or removes something, and looks again; what goes wrong is told.
   *
   * @param address below that of the work
   */
  act(method: 'POST' | 'DELETE', address: string, json?: unknown): Promise<void>;
}

/** Follows the films of a run for as long as one of them is under way. */
export function useFilmsAtWork(run: string): FilmsAtWorkState {
  const [films, setFilms] = useState<readonly FilmAtWork[]>([]);
  const [problem, setProblem] = useState<FileProblem | null>(null);
  const look = useCallback(async () => {
    try {
      setFilms((await ask<{ films: FilmAtWork[] }>(`/api/runs/${run}/films`)).films);
      setProblem(null);
    } catch (error) {
      setProblem(problemFrom(error));
    }
  }, [run]);
  useEffect(() => void look(), [look]);
  useEffect(() => {
    if (!films.some((film) => film.state === 'running')) return;
    const next = setTimeout(() => void look(), ASKED_EVERY);
    return () => clearTimeout(next);
  }, [films, look]);
  const act: FilmsAtWorkState['act'] = async (method, address, json) => {
    try {
      await ask(address, { method, json });
      await look();
    } catch (error) {
      setProblem(problemFrom(error));
    }
  };
  return { films, problem, act };
}

/** What the server makes in the background, also while nobody looks: how far it is, and what was made. */
export function FilmsAtWork({ films, problem, act }: FilmsAtWorkState) {
  return (
    <>
      {films.length > 0 && (
        <fieldset className="min-w-0">
          <legend className="head mb-1.5">In the background</legend>
          <ul className="flex flex-col gap-2.5">
            {films.map((film) => (
              <li key={film.job}>
                <Film film={film} act={act} />
              </li>
            ))}
          </ul>
        </fieldset>
      )}
      {problem && <ProblemNote problem={problem} />}
    </>
  );
}

function Film({ film, act }: { film: FilmAtWork } & Pick<FilmsAtWorkState, 'act'>) {
  const { job, name, width, height, state, pictures } = film;
  // The server counts them all, also those of a format that is gone.
  const files = film.outlets.flatMap((named, at) => {
    const outlet = outletNamed(named);
    return outlet ? [{ outlet, at }] : [];
  });
  const names = filmFileNames(
    name,
    files.map((f) => f.outlet),
  );
  const address = `/api/jobs/${job}`;
  const said = `${name}: ${files.map((f) => sayOutlet(f.outlet)).join(' + ')}, ${width} × ${height}`;
  if (state === 'running')
    return <Progress {...film} label={said} stops="Pause" onCancel={() => act('DELETE', address)} />;
  return (
    <div className="flex flex-col gap-1.5">
      <div className="flex flex-col gap-1.5 text-sm">
        <span>
          {said}
          <span className="text-soft">
            {state === 'done' ? `, ${pictures} pictures` : state === 'cancelled' ? ', paused' : ', stopped'}
          </span>
        </span>
        <span className="flex flex-wrap gap-1.5">
          {state === 'done' ? (
            <>
              {files.map(({ outlet, at }, i) => (
                <SaveFile
                  key={names[i]}
                  word={`Save ${sayOutlet(outlet)}`}
                  look={i === 0 ? 'act' : 'quiet'}
                  of={`${address}/films/${at}`}
                  name={names[i]}
                />
              ))}
              <SaveTracks name={name} tracks={film.tracks} />
              {film.poster !== null && (
                <SaveFile
                  word="Save poster"
                  look="quiet"
                  of={`${address}/pictures/${film.poster}`}
                  name={posterName(name)}
                />
              )}
            </>
          ) : (
            <button type="button" className="quiet h-8 text-sm" onClick={() => act('POST', address)}>
              Go on
            </button>
          )}
          <button
            type="button"
            className="quiet h-8 text-sm"
            aria-label={`Remove ${said}`}
            onClick={() => act('DELETE', `${address}/films`)}
          >
            Remove
          </button>
        </span>
      </div>
      {film.problem && <ProblemNote problem={film.problem} />}
    </div>
  );
}

interface SaveFileProps {
  word: string;
  look: 'act' | 'quiet';
  of: string;
  name: string;
}

/** A file the server keeps, saved where one wants it; what goes wrong is told beside. */
function SaveFile({ word, look, of, name }: SaveFileProps) {
  const [problem, setProblem] = useState<FileProblem | null>(null);
  const save = async () => {
    try {
      const { bytes } = await askFile(of);
      saveFile(await new Response(bytes).blob(), name);
    } catch (error) {
      setProblem(problemFrom(error));
    }
  };
  return (
    <>
      <button type="button" className={`${look} h-8 text-sm`} onClick={save}>
        {word}
      </button>
      {problem && <ProblemNote problem={problem} />}
    </>
  );
}
