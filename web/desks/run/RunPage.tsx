import { useEffect, useState } from 'react';
import type { InspectedRun } from '#core/measure/inspect-report.ts';
import type { FileProblem } from '#core/model/read-error.ts';
import type { RunTable } from '#core/model/run.ts';
import type { StatedMeanings } from '#core/model/stated-meanings.ts';
import { saySteps } from '#core/motion/step-text.ts';
import { ask, followJob, type JobProgress, problemFrom } from '#engine/server-requests.ts';
import {
  FieldTable,
  Notes,
  ParameterList,
  PartTable,
  SetList,
  StatedText,
} from '#web/desks/intake/ContentTables.tsx';
import { FrameStatement } from '#web/desks/intake/FrameStatement.tsx';
import { FormerFiles } from '#web/desks/shared/FormerFiles.tsx';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { Progress } from '#web/desks/shared/Progress.tsx';
import { TopBar } from '#web/desks/shared/TopBar.tsx';
import type { SourceState } from '#web/server/run-changes.ts';
import { HistoryChart } from './HistoryChart.tsx';

interface Props {
  id: string;
  report: InspectedRun;
  fieldKeys: string[];
  tables: RunTable[];
  scenes: { id: string; name: string }[];
}

const never = { kept: null, onKeep: () => undefined };

/** What an imported run holds, and what can still be done with its files. */
export function RunPage({ id, report, fieldKeys, tables, scenes }: Props) {
  const [work, setWork] = useState<(JobProgress & { label: string; abort: AbortController }) | null>(null);
  const [problem, setProblem] = useState<FileProblem | null>(null);
  const velocity = report.fields.some((f) => f.components === 3 && /velocity/.test(f.role));

  const readMore = async (label: string, asked: object) => {
    const abort = new AbortController();
    const begin = { label, done: 0, remaining: null, abort };
    setWork(begin);
    setProblem(null);
    try {
      const { job } = await ask<{ job: string }>(`/api/runs/${id}/read`, { method: 'POST', json: asked });
      await followJob(job, (p) => setWork({ ...begin, ...p }), abort.signal);
      location.reload();
    } catch (error) {
      if ((error as Error).name !== 'AbortError') setProblem(problemFrom(error));
      setWork(null);
    }
  };

  const state = async (stated: StatedMeanings) => {
    setProblem(null);
    try {
      await ask(`/api/runs/${id}`, { method: 'PATCH', json: stated });
      location.reload();
    } catch (error) {
      setProblem(problemFrom(error));
    }
  };

  const unitOf = (key: 'lengthUnit' | 'timeUnit', what: string) => (
    <div>
      <span className="head block first-letter:uppercase">{what} in</span>
      <StatedText
        label={`Unit of ${what}`}
        value={report[key] ?? ''}
        hint="no unit"
        className="mt-1 w-24"
        onState={(unit) => state({ [key]: unit || null })}
      />
    </div>
  );

  return (
    <div className="flex h-screen flex-col">
      <TopBar desk="intake" stageHref={scenes[0] ? `/scene/${scenes[0].id}` : null} />
      <main className="min-h-0 flex-1 overflow-y-auto">
        <div className="mx-auto max-w-5xl px-8 py-8">
          <h1 className="font-book text-[26px] leading-tight font-medium">{report.name}</h1>
          <p className="mt-1 text-soft">{sayRun(report)}</p>
          {scenes.length > 0 && (
            <p className="mt-2">
              <span className="head mr-2">Scenes</span>
              {scenes.map((s, i) => (
                <span key={s.id}>
                  {i > 0 && ', '}
                  <a className="word" href={`/scene/${s.id}`}>
                    {s.name}
                  </a>
                </span>
              ))}
            </p>
          )}
          <SourceCard
            id={id}
            busy={work !== null}
            onTrouble={(reason) => setProblem({ file: report.name, where: 'its files', reason, remedy: '' })}
            onNewSteps={() => readMore('Reading the new steps', { what: 'new steps' })}
            onFields={(fields) => readMore('Reading more fields', { what: 'fields', fields })}
          />
          {work && (
            <div className="mt-4 rounded-xl border border-rule bg-sheet px-5 py-4">
              <Progress
                {...work}
                onCancel={() => work.abort.abort(new DOMException('cancelled', 'AbortError'))}
              />
            </div>
          )}
          {problem && (
            <div className="mt-4">
              <ProblemNote problem={problem} />
            </div>
          )}
          {report.parts.length > 0 && (
            <section aria-label="Content" className="mt-5 rounded-xl border border-rule bg-sheet px-5 py-4">
              <div className="mb-4 flex flex-wrap gap-5">
                <div>
                  <span className="head block">Run</span>
                  <StatedText
                    label="Name of the run"
                    value={report.name}
                    className="mt-1 w-72"
                    onState={(name) => name && state({ name })}
                  />
                </div>
                {unitOf('lengthUnit', 'lengths')}
                {report.steps.length > 1 && unitOf('timeUnit', 'times')}
              </div>
              <PartTable report={report} lengthUnit={report.lengthUnit ?? ''} keep={never} />
              <FieldTable
                report={report}
                keys={fieldKeys}
                units={null}
                onUnit={() => undefined}
                readSteps={report.steps.length}
                steps={report.steps.length}
                keep={never}
                onApart={null}
                onState={(key, said) => state({ fields: { [key]: said } })}
              />
              <SetList report={report} />
              <ParameterList report={report} />
              {velocity && (
                <details className="mt-3">
                  <summary className="cursor-pointer text-soft">
                    Is a velocity relative to a rotating frame?
                  </summary>
                  <FrameStatement
                    parts={report.parts.map((p) => p.name)}
                    busy={work !== null}
                    act="Make the absolute velocity"
                    onState={(part, frame) =>
                      readMore('Making the absolute velocity', { what: 'frame', part, frame })
                    }
                  />
                </details>
              )}
              <Notes warnings={report.warnings} />
            </section>
          )}
          {tables.map((table) => (
            <section
              key={table.name}
              aria-label={`Table ${table.name}`}
              className="mt-5 rounded-xl border border-rule bg-sheet px-5 py-4"
            >
              <HistoryChart table={table} />
            </section>
          ))}
        </div>
      </main>
    </div>
  );
}

function sayRun(report: InspectedRun): string {
  const { steps, parts, tables } = report;
  if (parts.length === 0)
    return tables
      .map((t) => `${t.rows.toLocaleString('en-GB')} rows of ${t.columns.length} quantities`)
      .join(', ');
  const span = saySteps(steps, report.timeUnit);
  return `${parts.length} ${parts.length === 1 ? 'part' : 'parts'}, ${span}`;
}

interface SourceProps {
  id: string;
  busy: boolean;
  onNewSteps(): void;
  onFields(keys: string[]): void;
  onTrouble(text: string): void;
}

/** How the files stand now: longer, changed, gone; and what of them was left out. */
function SourceCard({ id, busy, onNewSteps, onFields, onTrouble }: SourceProps) {
  const [state, setState] = useState<SourceState | null>(null);
  const [wanted, setWanted] = useState<Set<string>>(new Set());
  useEffect(() => {
    const look = () => ask<SourceState>(`/api/runs/${id}/source`).then(setState, () => undefined);
    void look();
    const timer = setInterval(look, 20_000);
    return () => clearInterval(timer);
  }, [id]);
  return (
    <section aria-label="Files of the run" className="mt-5 rounded-xl border border-rule bg-sheet px-5 py-4">
      <div className="flex flex-wrap items-center gap-3">
        <p className="min-w-64 flex-1 font-book text-[17px]">{saySource(state)}</p>
        {state && state.newSteps > 0 && (
          <button type="button" className="act" disabled={busy} onClick={onNewSteps}>
            Read the new steps
          </button>
        )}
        <FormerFiles run={id} onTrouble={onTrouble} />
        <a className="quiet" href={`/?swap=${id}`}>
          Swap its files
        </a>
      </div>
      {state && state.leftOut.length > 0 && (
        <div className="mt-3">
          <p className="head">Left out so far</p>
          <div className="mt-1 flex flex-wrap items-center gap-x-5 gap-y-1">
            {state.leftOut.map((f) => (
              <label key={f.key} className="flex items-center gap-2">
                <input
                  type="checkbox"
                  className="size-4 accent-accent"
                  checked={wanted.has(f.key)}
                  onChange={(e) => {
                    const next = new Set(wanted);
                    if (e.target.checked) next.add(f.key);
                    else next.delete(f.key);
                    setWanted(next);
                  }}
                />
                {f.name} <span className="text-soft">on {f.location}s</span>
              </label>
            ))}
            <button
              type="button"
              className="quiet h-8"
              disabled={busy || wanted.size === 0 || !state.there}
              onClick={() => onFields([...wanted])}
            >
              Add them
            </button>
          </div>
        </div>
      )}
    </section>
  );
}

function saySource(state: SourceState | null): string {
  if (!state) return 'Looking at the files …';
  if (!state.there)
    return 'The files were dropped from a computer and are not kept. Swap them to read newer ones.';
  const many = (n: number): string => `${n} of the files`;
  if (state.newSteps > 0)
    return `The files have grown: ${state.newSteps} new ${state.newSteps === 1 ? 'step' : 'steps'}.`;
  if (state.gone.length > 0)
    return `${many(state.gone.length)} are gone: ${state.gone.slice(0, 3).join(', ')}.`;
  if (state.changed.length > 0)
    return `${many(state.changed.length)} have changed since they were read. Swap them in to see the change.`;
  return 'The files are as they were read.';
}
