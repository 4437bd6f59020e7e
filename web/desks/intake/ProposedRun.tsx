import { Info } from 'lucide-react';
import { useState } from 'react';
import type { InspectedField, InspectedRun } from '#core/measure/inspect-report.ts';
import { secondsIn } from '#core/motion/time-text.ts';
import { sayNumber } from '#core/scene/sentence.ts';
import type { Preview } from '#web/server/import-worker.ts';

export interface RunChoices {
  name: string;
  timeUnit: string | null;
  lengthUnit: string | null;
  units: Record<string, string | null>;
}

interface Props {
  preview: Preview;
  busy: boolean;
  onImport(choices: RunChoices): void;
  onDiscard(): void;
}

/** What one proposed run holds, with the few things a file cannot tell left to be said. */
export function ProposedRun({ preview, busy, onImport, onDiscard }: Props) {
  const { plan, report, fieldKeys, readSteps } = preview;
  const [name, setName] = useState(plan.name);
  const [timeUnit, setTimeUnit] = useState(report?.timeUnit ?? '');
  const [lengthUnit, setLengthUnit] = useState(report?.lengthUnit ?? '');
  const [units, setUnits] = useState<Record<string, string | null>>({});
  const steps = plan.steps.length;
  const choices: RunChoices = {
    name,
    timeUnit: steps > 1 ? timeUnit || null : null,
    lengthUnit: lengthUnit || null,
    units,
  };
  return (
    <article className="rounded-xl border border-rule bg-sheet">
      <div className="flex flex-wrap items-end gap-4 border-b border-rule px-5 py-4">
        <label className="min-w-48 flex-1">
          <span className="head block">Run</span>
          <input
            className="field mt-1 w-full font-medium"
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
        </label>
        <label>
          <span className="head block">Lengths in</span>
          <input
            className="field mt-1 w-24"
            list="length-units"
            value={lengthUnit}
            placeholder="no unit"
            onChange={(e) => setLengthUnit(e.target.value)}
          />
        </label>
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
          disabled={busy || name.trim() === ''}
          onClick={() => onImport(choices)}
        >
          Import
        </button>
      </div>
      <p className="px-5 pt-4 font-book text-[17px]">{sayContent(preview)}</p>
      {report && (
        <div className="px-5 py-4">
          <PartTable report={report} lengthUnit={lengthUnit} />
          <FieldTable
            report={report}
            keys={fieldKeys}
            units={units}
            onUnit={(key, unit) => setUnits({ ...units, [key]: unit || null })}
            readSteps={readSteps}
            steps={steps}
          />
          <Odd warnings={[...new Set([...plan.warnings, ...report.warnings])]} />
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

function sayContent({ plan, report }: Preview): string {
  const files = plan.steps.reduce((n, s) => n + s.files.length, 0);
  const kind = report?.dimension === 2 ? 'A flat run' : 'A run';
  const fileText = `${files} ${files === 1 ? 'file' : 'files'}`;
  if (plan.steps.length === 1) return `${kind} of one step, from ${fileText}.`;
  const times = plan.steps.map((s) => s.time);
  const first = times[0] ?? report?.steps[0]?.time ?? null;
  const last = times[times.length - 1] ?? report?.steps[report.steps.length - 1]?.time ?? null;
  const stated = times.every((t) => t !== null);
  const span =
    first !== null && last !== null && (stated || first !== 0 || last !== 1)
      ? `, t = ${sayNumber(first)} to ${sayNumber(last)}`
      : '';
  const uneven = stated && plan.steps.length > 2 && isUneven(times as number[]) ? ' at uneven times' : '';
  return `${kind} of ${plan.steps.length} steps${uneven}${span}, from ${fileText}${plan.collection ? ' listed in a collection' : ''}.`;
}

function isUneven(times: number[]): boolean {
  const gaps = times.slice(1).map((t, i) => t - times[i]);
  return Math.max(...gaps) - Math.min(...gaps) > 1e-6 * Math.max(...gaps.map(Math.abs));
}

const count = (n: number) => n.toLocaleString('en-GB');

function PartTable({ report, lengthUnit }: { report: InspectedRun; lengthUnit: string }) {
  return (
    <table className="w-full text-left">
      <thead>
        <tr className="head border-b border-rule">
          <th className="py-1.5 font-semibold">Part</th>
          <th className="text-right font-semibold">Points</th>
          <th className="pl-6 font-semibold">Cells</th>
          <th className="pl-6 font-semibold">From to{lengthUnit && `, ${lengthUnit}`}</th>
        </tr>
      </thead>
      <tbody>
        {report.parts.map((part) => (
          <tr key={part.name} className="border-b border-rule/60 align-top">
            <td className="py-1.5 font-medium">{part.name}</td>
            <td className="py-1.5 text-right tabular-nums">{count(part.points)}</td>
            <td className="py-1.5 pl-6 tabular-nums">
              {Object.entries(part.cellsByType)
                .map(([type, n]) => `${count(n)} ${type}`)
                .join(', ')}
            </td>
            <td className="py-1.5 pl-6 tabular-nums text-soft">
              {[0, 2, 4]
                .map((k) => `${sayNumber(part.bounds[k], 3)} … ${sayNumber(part.bounds[k + 1], 3)}`)
                .join(' · ')}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

interface FieldTableProps {
  report: InspectedRun;
  keys: string[];
  units: Record<string, string | null>;
  onUnit(key: string, unit: string): void;
  readSteps: number;
  steps: number;
}

function FieldTable({ report, keys, units, onUnit, readSteps, steps }: FieldTableProps) {
  if (report.fields.length === 0)
    return <p className="mt-4 text-soft">There are no fields: only the shape can be shown.</p>;
  return (
    <table className="mt-5 w-full text-left">
      <thead>
        <tr className="head border-b border-rule">
          <th className="py-1.5 font-semibold">Field</th>
          <th className="font-semibold">On</th>
          <th className="font-semibold">Kind</th>
          <th className="font-semibold">Range{readSteps < steps && ' in the first and last step'}</th>
          <th className="font-semibold">Unit</th>
        </tr>
      </thead>
      <tbody>
        {report.fields.map((field, i) => (
          <tr key={keys[i]} className="border-b border-rule/60">
            <td className="py-1 font-medium">{field.name}</td>
            <td>{field.location}s</td>
            <td>{sayKind(field)}</td>
            <td className="tabular-nums">{sayRange(field)}</td>
            <td>
              <input
                className="field h-7 w-24"
                aria-label={`Unit of ${field.name}`}
                placeholder="no unit"
                value={(keys[i] in units ? units[keys[i]] : field.unit) ?? ''}
                onChange={(e) => onUnit(keys[i], e.target.value)}
              />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function sayKind({ components }: InspectedField): string {
  if (components === 1) return 'scalar';
  if (components <= 3) return `vector of ${components}`;
  return components === 6 ? 'symmetric tensor' : components === 9 ? 'tensor' : `${components} components`;
}

function sayRange(field: InspectedField): string {
  if (field.min !== null && field.max !== null) return `${sayNumber(field.min)} … ${sayNumber(field.max)}`;
  const known = field.componentRanges.filter((r) => r.min !== null);
  if (known.length === 0) return 'no values';
  return `${sayNumber(Math.min(...known.map((r) => r.min!)))} … ${sayNumber(Math.max(...known.map((r) => r.max!)))}`;
}

function Odd({ warnings }: { warnings: string[] }) {
  if (warnings.length === 0) return null;
  return (
    <ul className="mt-4 flex flex-col gap-1 text-warn">
      {warnings.map((w) => (
        <li key={w} className="flex gap-2">
          <Info size={16} className="mt-0.5 shrink-0" />
          {w}
        </li>
      ))}
    </ul>
  );
}
