import { useState } from 'react';
import { filesOfPlan } from '#core/formats/series.ts';
import { sayNumber } from '#core/language/sentence.ts';
import { type ImportChoices, type StepKind, stepKinds } from '#core/model/run.ts';
import { secondsIn } from '#core/model/units.ts';
import { pluralKind, saySteps } from '#core/motion/step-text.ts';
import { sayBytes } from '#web/desks/shared/say-bytes.ts';
import type { ArrangeWish, Preview } from '#web/server/reading-jobs.ts';
import { ColumnChooser } from './ColumnChooser.tsx';
import { FieldTable, Notes, ParameterList, PartTable, SetList } from './ContentTables.tsx';
import { FrameStatement } from './FrameStatement.tsx';
import { Grouping } from './Grouping.tsx';

export type RunChoices = ImportChoices & { name: string };

interface Props {
  preview: Preview;
  busy: boolean;
  /** What the button that takes the run in says. */
  act: string;
  /** Whether it is marked for being put together with others; null when there are no others. */
  marked: boolean | null;
  onMark(on: boolean): void;
  /** Told which unit its lengths are in when that is said by hand. */
  onLengthUnit(unit: string): void;
  onArrange(wish: ArrangeWish): void;
  onImport(choices: RunChoices): void;
  onDiscard(): void;
}

/** What one proposed run holds, with the few things a file cannot tell left to be said. */
export function ProposedRun({
  preview,
  busy,
  act,
  marked,
  onMark,
  onLengthUnit,
  onArrange,
  onImport,
  onDiscard,
}: Props) {
  const { plan, report, fieldKeys, readSteps } = preview;
  const [name, setName] = useState(plan.name);
  const [timeUnit, setTimeUnit] = useState(report?.timeUnit ?? '');
  const [lengthUnit, setLengthUnit] = useState(report?.lengthUnit ?? '');
  const [units, setUnits] = useState<Record<string, string | null>>({});
  const [droppedFields, setDroppedFields] = useState<Set<string>>(new Set());
  const [droppedParts, setDroppedParts] = useState<Set<string>>(new Set());
  const [range, setRange] = useState({ from: 1, to: plan.steps.length, every: 1 });
  const [stepKind, setStepKind] = useState<StepKind | ''>('');
  const [frames, setFrames] = useState<NonNullable<ImportChoices['frames']>>({});
  const steps = plan.steps.length;
  const taken = Math.max(0, Math.floor((Math.min(range.to, steps) - range.from) / range.every) + 1);
  const partial = taken < steps;
  const parts = report?.parts ?? [];
  const choices: RunChoices = {
    name,
    timeUnit: steps > 1 ? timeUnit || null : null,
    lengthUnit: lengthUnit || null,
    units,
    fields: droppedFields.size > 0 ? fieldKeys.filter((k) => !droppedFields.has(k)) : null,
    parts: droppedParts.size > 0 ? parts.map((p) => p.name).filter((p) => !droppedParts.has(p)) : null,
    stepKind: stepKind || null,
    steps: partial ? { from: range.from - 1, to: range.to - 1, every: range.every } : null,
    frames,
  };
  const apart = plan.apart ?? [];
  const keepApart = (names: string[]) =>
    onArrange({ as: null, times: { kind: 'stated' }, reading: plan.reading, apart: names, same: true });
  const velocity = report?.fields.some((f) => f.components === 3 && /velocity/.test(f.role)) ?? false;
  const nothing = parts.length > 0 && (droppedParts.size === parts.length || (steps > 0 && taken === 0));
  return (
    <article className="rounded-xl border border-rule bg-sheet" aria-label={`Proposed run ${plan.name}`}>
      <div className="flex flex-wrap items-end gap-4 border-b border-rule px-5 py-4">
        <label className="min-w-48 flex-1">
          <span className="head block">Run</span>
          <input
            className="field mt-1 w-full font-medium"
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
        </label>
        {parts.length > 0 && (
          <label>
            <span className="head block">Lengths in</span>
            <input
              className="field mt-1 w-24"
              list="length-units"
              value={lengthUnit}
              placeholder="no unit"
              onChange={(e) => {
                setLengthUnit(e.target.value);
                onLengthUnit(e.target.value);
              }}
            />
          </label>
        )}
        {steps > 1 && (
          <label>
            <span className="head block">Times in</span>
            <input
              className="field mt-1 w-24"
              list="time-units"
              value={timeUnit}
              placeholder="no unit"
              onChange={(e) => setTimeUnit(e.target.value)}
            />
          </label>
        )}
        {steps > 1 && (
          <label>
            <span className="head block">Steps are</span>
            <select
              className="field mt-1"
              value={stepKind}
              onChange={(e) => setStepKind(e.target.value as StepKind | '')}
            >
              <option value="">as the files say</option>
              {stepKinds.map((kind) => (
                <option key={kind} value={kind}>
                  {pluralKind[kind]}
                </option>
              ))}
            </select>
          </label>
        )}
        <datalist id="length-units">
          {['m', 'mm', 'cm', 'µm', 'Å'].map((u) => (
            <option key={u} value={u} />
          ))}
        </datalist>
        <datalist id="time-units">
          {Object.keys(secondsIn).map((u) => (
            <option key={u} value={u} />
          ))}
        </datalist>
        <button type="button" className="quiet" onClick={onDiscard} disabled={busy}>
          Leave it
        </button>
        <button
          type="button"
          className="act"
          disabled={busy || name.trim() === '' || nothing}
          onClick={() => onImport(choices)}
        >
          {act}
        </button>
      </div>
      <div className="px-5 pt-4">
        <p className="font-book text-[17px]">{sayContent(preview)}</p>
        <Grouping plan={plan} files={filesOfPlan(plan).length} busy={busy} onArrange={onArrange} />
        {marked !== null && plan.steps.length > 0 && (
          <label className="mt-2 flex items-center gap-2 text-soft">
            <input
              type="checkbox"
              className="size-4 accent-accent"
              checked={marked}
              onChange={(e) => onMark(e.target.checked)}
            />
            put together with the other marked runs
          </label>
        )}
      </div>
      {preview.table && (
        <div className="px-5 pt-4">
          <ColumnChooser
            table={preview.table}
            reading={plan.reading ?? { as: 'history', time: 0 }}
            busy={busy}
            onChange={(reading) =>
              onArrange({
                as: reading.as === 'points' ? plan.arrangement : null,
                times: { kind: 'stated' },
                reading,
                apart,
              })
            }
          />
        </div>
      )}
      {report && (
        <div className="px-5 py-4">
          <PartTable
            report={report}
            lengthUnit={lengthUnit}
            keep={{
              kept: parts.length > 1 ? (row) => !droppedParts.has(parts[row].name) : null,
              onKeep: (row, on) => setDroppedParts(toggled(droppedParts, parts[row].name, !on)),
            }}
          />
          <FieldTable
            report={report}
            keys={fieldKeys}
            units={units}
            onUnit={(key, unit) => setUnits({ ...units, [key]: unit || null })}
            readSteps={readSteps}
            steps={steps}
            keep={{
              kept: (row) => !droppedFields.has(fieldKeys[row]),
              onKeep: (row, on) => setDroppedFields(toggled(droppedFields, fieldKeys[row], !on)),
            }}
            onApart={busy ? null : (field) => keepApart([...apart, field])}
          />
          {apart.length > 0 && (
            <p className="mt-2 text-soft">
              Kept as scalars:{' '}
              {apart.map((field) => (
                <span key={field} className="mr-3">
                  {field}{' '}
                  <button
                    type="button"
                    className="font-medium text-accent hover:underline"
                    aria-label={`Join the components of ${field}`}
                    disabled={busy}
                    onClick={() => keepApart(apart.filter((a) => a !== field))}
                  >
                    join
                  </button>
                </span>
              ))}
            </p>
          )}
          {parts.length > 0 && (
            <p className="mt-3 flex flex-wrap items-center gap-2 text-soft">
              {steps > 1 && <StepRange range={range} steps={steps} onChange={setRange} />}
              <span className="tabular-nums" data-testid="size">
                takes about {sayBytes(sizeOf(preview, droppedFields, taken))}
              </span>
            </p>
          )}
          {velocity && (
            <details className="mt-1">
              <summary className="cursor-pointer text-soft">
                Is a velocity relative to a rotating frame?
              </summary>
              <FrameStatement
                parts={parts.map((p) => p.name)}
                busy={busy}
                act="State it"
                onState={(part, frame) => setFrames({ ...frames, [part]: frame })}
              />
              {Object.entries(frames).map(([part, f]) => (
                <p key={part} className="mt-1">
                  {part} turns at {sayNumber((f.rate * 60) / (2 * Math.PI))} turns a minute: the absolute
                  velocity will be a field of its own.
                </p>
              ))}
            </details>
          )}
          <SetList report={report} />
          <ParameterList report={report} />
          <Notes warnings={[...new Set([...plan.warnings, ...report.warnings])]} />
        </div>
      )}
      {!report && (
        <p className="px-5 py-4 text-soft">
          The first and last step cannot be read; the import takes the steps between them.
        </p>
      )}
    </article>
  );
}

function toggled(set: Set<string>, entry: string, on: boolean): Set<string> {
  const next = new Set(set);
  if (on) next.add(entry);
  else next.delete(entry);
  return next;
}

/** Bytes of the meshes once and of the kept fields for every kept step. */
function sizeOf({ fieldKeys, fieldBytes, meshBytes }: Preview, dropped: Set<string>, steps: number): number {
  const perStep = fieldKeys.reduce((n, key, i) => n + (dropped.has(key) ? 0 : fieldBytes[i]), 0);
  return meshBytes + perStep * Math.max(1, steps);
}

interface Range {
  from: number;
  to: number;
  every: number;
}

function StepRange({
  range,
  steps,
  onChange,
}: {
  range: Range;
  steps: number;
  onChange(range: Range): void;
}) {
  const field = (label: string, key: keyof Range, lowest: number, highest: number) => (
    <input
      className="field h-7 w-16 text-sm"
      aria-label={label}
      type="number"
      min={lowest}
      max={highest}
      value={range[key]}
      onChange={(e) => {
        const value = Math.round(e.target.valueAsNumber);
        if (value >= lowest && value <= highest) onChange({ ...range, [key]: value });
      }}
    />
  );
  return (
    <span className="flex items-center gap-2">
      Steps {field('First step to keep', 'from', 1, steps)} to {field('Last step to keep', 'to', 1, steps)},
      every {field('Keep every n-th step', 'every', 1, steps)} of {steps}:
    </span>
  );
}

function sayContent({ plan, report }: Preview): string {
  const files = filesOfPlan(plan).length;
  const fileText = `${files} ${files === 1 ? 'file' : 'files'}`;
  if (plan.pictures.length > 0 && plan.steps.length === 0)
    return `A picture, to stand behind or under a model.`;
  if (plan.steps.length === 0) return `A table, from ${fileText}.`;
  const kind = report?.dimension === 2 ? 'A flat run' : 'A run';
  const pieces = Math.max(...plan.steps.map((s) => new Set(s.files.flatMap((f) => f.piece ?? [])).size));
  const joined = plan.steps.some((s) => s.files.some((f) => f.piece !== null))
    ? `, ${pieces} partitions joined`
    : '';
  if (plan.steps.length === 1) return `${kind} of one step, from ${fileText}${joined}.`;
  const source = `from ${fileText}${plan.collection ? ' listed in a collection' : ''}${joined}.`;
  if (report?.steps.some((s) => s.kind !== 'time'))
    return `${kind} of ${saySteps(report.steps, report.timeUnit)}, ${source}`;
  const times = plan.steps.map((s, i) => s.time ?? report?.steps[i]?.time ?? null);
  const first = times[0];
  const last = times[times.length - 1];
  const stated = plan.steps.every((s) => s.time !== null);
  const span =
    first !== null && last !== null && (stated || first !== 0 || last !== 1)
      ? `, t = ${sayNumber(first)} to ${sayNumber(last)}`
      : '';
  const uneven = stated && plan.steps.length > 2 && isUneven(times as number[]) ? ' at uneven times' : '';
  return `${kind} of ${plan.steps.length} steps${uneven}${span}, ${source}`;
}

function isUneven(times: number[]): boolean {
  const gaps = times.slice(1).map((t, i) => t - times[i]);
  return Math.max(...gaps) - Math.min(...gaps) > 1e-6 * Math.max(...gaps.map(Math.abs));
}
