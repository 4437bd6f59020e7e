import { useEffect, useState } from 'react';
import type { BatchEntry } from '#core/batch/batch-log.ts';
import { documentFormats } from '#core/batch/document-formats.ts';
import { ask } from '#engine/server-requests.ts';
import { type FollowedWork, useFollowedWork } from '#web/desks/shared/followed-work.ts';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { Progress } from '#web/desks/shared/Progress.tsx';
import { useWork } from '#web/desks/shared/work-state.ts';
import type { BatchAtWork } from '#web/server/batches-of-set.ts';
import { saveDocument } from '../save-document.ts';

/**
 * The batches of a set.
 *
 * @param watches whether it watches a folder, so that some begin by themselves
 */
export const useBatches = (set: string, watches: boolean): FollowedWork<BatchAtWork> =>
  useFollowedWork(`/api/batches?set=${encodeURIComponent(set)}`, 'batches', watches);

/** What is made in the background: how far it is, what came of it, and what failed. */
export function BatchesAtWork({ works, problem, act }: FollowedWork<BatchAtWork>) {
  return (
    <>
      {works.length > 0 && (
        <section aria-label="Batches">
          <h3 className="head mb-1.5">In the background</h3>
          <ul className="flex flex-col gap-3">
            {works.map((batch) => (
              <li key={batch.job}>
                <Batch batch={batch} act={act} />
              </li>
            ))}
          </ul>
        </section>
      )}
      {problem && <ProblemNote problem={problem} />}
    </>
  );
}

function Batch({ batch, act }: { batch: BatchAtWork } & Pick<FollowedWork<BatchAtWork>, 'act'>) {
  const { job, files, films, folder, state, made } = batch;
  const work = `/api/jobs/${job}`;
  const said = saidFiles(files, films);
  if (state === 'running')
    return (
      <>
        <Progress {...batch} label={said} stops="Pause" onCancel={() => act('DELETE', work)} />
        <Failures job={job} when={Math.floor(batch.done * 50)} />
      </>
    );
  return (
    <div className="flex flex-col gap-1.5 text-sm">
      <p>
        {said}
        <span className="text-soft">
          {made ? `: ${saidCount(made)}` : state === 'cancelled' ? ', paused' : ', stopped'}
        </span>
      </p>
      <p className="text-xs break-all text-soft" title="Folder of the pictures">
        {folder}
      </p>
      <Failures job={job} when={state} />
      <div className="flex flex-wrap gap-1.5">
        {made && made.made + made.current > 0 && (
          <a className="act h-8 text-sm" href={`/api/batches/${job}/zip`} download>
            Save zip
          </a>
        )}
        {made && made.made + made.current > 0 && <SaveReport job={job} />}
        {(!made || made.failed > 0) && (
          <button type="button" className="quiet h-8 text-sm" onClick={() => act('POST', work)}>
            {made ? 'Try those again' : 'Go on'}
          </button>
        )}
        <button
          type="button"
          className="quiet h-8 text-sm"
          aria-label={`Off the list: ${said}`}
          title="The pictures stay in their folder"
          onClick={() => act('DELETE', `/api/batches/${job}`)}
        >
          Off the list
        </button>
      </div>
      {batch.problem && <ProblemNote problem={batch.problem} />}
    </div>
  );
}

/** All pictures of a batch in a document, with the runs, what is said of each, and what failed. */
function SaveReport({ job }: { job: string }) {
  const { work, problem, run } = useWork();
  if (work)
    return (
      <div className="w-full">
        <Progress {...work} onCancel={work.cancel} />
      </div>
    );
  return (
    <>
      {documentFormats.map((format) => (
        <button
          key={format.id}
          type="button"
          className="quiet h-8 text-sm"
          title={`All pictures with their runs and what failed (.${format.ending})`}
          onClick={() =>
            run('Writing the report', (_, signal) => saveDocument(job, format, null, signal), {
              measured: false,
            })
          }
        >
          Report as {format.name}
        </button>
      ))}
      {problem && <ProblemNote problem={problem} />}
    </>
  );
}

/** `6 pictures`; `8 files` where films are among them. */
export const saidFiles = (files: number, films: boolean): string =>
  `${files} ${films ? 'file' : 'picture'}${files === 1 ? '' : 's'}`;

const saidCount = ({ made, current, failed }: { made: number; current: number; failed: number }): string =>
  [made > 0 && `${made} made`, current > 0 && `${current} as they were`, failed > 0 && `${failed} failed`]
    .filter(Boolean)
    .join(', ');

/** More failures than this are only counted. */
const SHOWN = 6;

/** Each text once, with how often it is said. */
function counted(said: readonly string[]): [string, number][] {
  const times = new Map<string, number>();
  for (const one of said) times.set(one, (times.get(one) ?? 0) + 1);
  return [...times];
}

/** What failed, what was lacking and what should be known, by pictures with the same trouble. */
function Failures({ job, when }: { job: string; when: string | number }) {
  const [entries, setEntries] = useState<readonly BatchEntry[]>([]);
  useEffect(() => {
    let gone = false;
    ask<{ entries: BatchEntry[] }>(`/api/batches/${job}`).then(
      (told) => gone || setEntries(told.entries),
      // Told of by what follows the batch.
      () => undefined,
    );
    return () => {
      gone = true;
    };
  }, [job, when]);
  const failed = entries.filter((e) => e.problem);
  const notes = counted(entries.flatMap((e) => e.notes));
  const known = counted(entries.flatMap((e) => e.preflight));
  if (failed.length + notes.length + known.length === 0) return null;
  return (
    <ul aria-label="What did not go well" className="flex flex-col gap-1 text-sm">
      {failed.slice(0, SHOWN).map(({ path, problem }) => (
        <li key={path} className="break-words">
          <span className="font-medium">{path}</span>: {problem!.reason}.{' '}
          <span className="text-soft">{problem!.remedy}</span>
        </li>
      ))}
      {failed.length > SHOWN && <li className="text-soft">and {failed.length - SHOWN} more</li>}
      {[...notes, ...known].slice(0, SHOWN).map(([said, times]) => (
        <li key={said} className="break-words text-soft">
          {said} ({times === 1 ? '1 picture' : `${times} pictures`})
        </li>
      ))}
    </ul>
  );
}
