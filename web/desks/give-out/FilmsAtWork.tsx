import { useState } from 'react';
import type { FileProblem } from '#core/model/read-error.ts';
import { askFile, problemFrom } from '#engine/server-requests.ts';
import { type FollowedWork, useFollowedWork } from '#web/desks/shared/followed-work.ts';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { Progress } from '#web/desks/shared/Progress.tsx';
import { saveFile } from '#web/desks/shared/save-file.ts';
import type { FilmAtWork } from './film-at-work.ts';
import { filmFileNames, outletNamed, posterName, sayOutlet } from './film-names.ts';
import { SaveTracks } from './MadeFilm.tsx';

/** Films of a run that the server makes in the background. */
export type FilmsAtWorkState = FollowedWork<FilmAtWork>;

export const useFilmsAtWork = (run: string): FilmsAtWorkState =>
  useFollowedWork(`/api/runs/${run}/films`, 'films');

/** What the server makes in the background, also while nobody looks: how far it is, and what was made. */
export function FilmsAtWork({ works, problem, act }: FilmsAtWorkState) {
  return (
    <>
      {works.length > 0 && (
        <fieldset className="min-w-0">
          <legend className="head mb-1.5">In the background</legend>
          <ul className="flex flex-col gap-2.5">
            {works.map((film) => (
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
