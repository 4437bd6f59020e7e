import { useCallback, useEffect, useState } from 'react';
import type { FileProblem } from '#core/model/read-error.ts';
import { ask, askFile, problemFrom } from '#engine/server-requests.ts';
import { filmWriters } from '#stage/films/registry.ts';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { Progress } from '#web/desks/shared/Progress.tsx';
import { fileName, saveFile } from '#web/desks/shared/save-file.ts';
import type { FilmAtWork } from './film-at-work.ts';
import { posterName } from './MadeFilm.tsx';

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
        <fieldset>
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

const nameOfFormat = (id: string): string => filmWriters.find((w) => w.id === id)?.name ?? id;

function Film({ film, act }: { film: FilmAtWork } & Pick<FilmsAtWorkState, 'act'>) {
  const { job, name, formats, width, height, state, pictures } = film;
  const address = `/api/jobs/${job}`;
  const said = `${name}: ${formats.map(nameOfFormat).join(', ')}, ${width} × ${height}`;
  if (state === 'running')
    return <Progress {...film} label={said} stops="Pause" onCancel={() => act('DELETE', address)} />;
  return (
    <div className="flex flex-col gap-1.5">
      <div className="flex items-center justify-between gap-2 text-sm">
        <span className="min-w-0">
          {said}
          <span className="text-soft">
            {state === 'done' ? `, ${pictures} pictures` : state === 'cancelled' ? ', paused' : ', stopped'}
          </span>
        </span>
        <span className="flex shrink-0 gap-1.5">
          {state === 'done' ? (
            <>
              {formats.map((format, i) => (
                <SaveFile
                  key={format}
                  word={`Save${formats.length > 1 ? ` ${nameOfFormat(format)}` : ''}`}
                  look="act"
                  of={`${address}/films/${i}`}
                  nameOf={(kept) => `${fileName(name)}${kept.slice(kept.lastIndexOf('.'))}`}
                />
              ))}
              {film.poster !== null && (
                <SaveFile
                  word="Save poster"
                  look="quiet"
                  of={`${address}/pictures/${film.poster}`}
                  nameOf={() => posterName(name)}
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
  /** From the name the server keeps it under. */
  nameOf(kept: string): string;
}

/** A file the server keeps, saved where one wants it; what goes wrong is told beside. */
function SaveFile({ word, look, of, nameOf }: SaveFileProps) {
  const [problem, setProblem] = useState<FileProblem | null>(null);
  const save = async () => {
    try {
      const { name, bytes } = await askFile(of);
      saveFile(await new Response(bytes).blob(), nameOf(name));
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
