import { Info } from 'lucide-react';
import { sayNumber } from '#core/language/sentence.ts';
import type { InspectedField, InspectedRun } from '#core/measure/inspect-report.ts';
import { type FieldRole, fieldRoles } from '#core/model/roles.ts';

const count = (n: number): string => n.toLocaleString('en-GB');

interface Keep {
  /** Whether each row is taken; null shows no ticks. */
  kept: ((row: number) => boolean) | null;
  onKeep(row: number, on: boolean): void;
}

function KeepTick({ keep, row, name }: { keep: Keep; row: number; name: string }) {
  if (!keep.kept) return null;
  return (
    <input
      type="checkbox"
      className="mr-2 size-4 translate-y-[3px] accent-accent"
      aria-label={`Keep ${name}`}
      checked={keep.kept(row)}
      onChange={(e) => keep.onKeep(row, e.target.checked)}
    />
  );
}

export function PartTable({
  report,
  lengthUnit,
  keep,
}: {
  report: InspectedRun;
  lengthUnit: string;
  keep: Keep;
}) {
  if (report.parts.length === 0) return null;
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
        {report.parts.map((part, i) => (
          <tr key={part.name} className="border-b border-rule/60 align-top">
            <td className="py-1.5 font-medium">
              <KeepTick keep={keep} row={i} name={part.name} />
              {part.name}
              {part.kind !== 'mesh' && <span className="ml-2 font-normal text-soft">{part.kind}</span>}
            </td>
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
  /** Units set by hand; null when they cannot be changed here. */
  units: Record<string, string | null> | null;
  onUnit(key: string, unit: string): void;
  readSteps: number;
  steps: number;
  keep: Keep;
  /** Keeps the components of a quantity as scalars of their own; null where that cannot be chosen. */
  onApart: ((name: string) => void) | null;
  /** Takes what is said of a field at once: its name, its unit, what it means; null where it cannot be said. */
  onState?: ((key: string, said: Said) => void) | null;
}

/** What can be said of a field. */
export interface Said {
  name?: string;
  unit?: string | null;
  role?: FieldRole;
}

/** A text that is taken when one leaves it. */
export function StatedText({ label, value, hint, className, onState }: StatedTextProps) {
  return (
    <input
      key={value}
      className={`field h-7 ${className}`}
      aria-label={label}
      placeholder={hint}
      defaultValue={value}
      onBlur={(e) => e.target.value.trim() !== value && onState(e.target.value.trim())}
      onKeyDown={(e) => {
        if (e.key === 'Escape') e.currentTarget.value = value;
        if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur();
      }}
    />
  );
}

interface StatedTextProps {
  label: string;
  value: string;
  hint?: string;
  className: string;
  onState(text: string): void;
}

export function FieldTable({
  report,
  keys,
  units,
  onUnit,
  readSteps,
  steps,
  keep,
  onApart,
  onState = null,
}: FieldTableProps) {
  if (report.fields.length === 0)
    return report.parts.length > 0 ? (
      <p className="mt-4 text-soft">There are no fields: only the shape can be shown.</p>
    ) : null;
  return (
    <table className="mt-5 w-full text-left">
      <thead>
        <tr className="head border-b border-rule">
          <th className="py-1.5 font-semibold">Field</th>
          <th className="font-semibold">On</th>
          <th className="font-semibold">Kind</th>
          <th className="font-semibold">Looks like</th>
          <th className="font-semibold">Range{readSteps < steps && ' in the first and last step'}</th>
          <th className="font-semibold">Unit</th>
        </tr>
      </thead>
      <tbody>
        {report.fields.map((field, i) => (
          <tr key={keys[i]} className="border-b border-rule/60">
            <td className="py-1 font-medium">
              <KeepTick keep={keep} row={i} name={field.name} />
              {onState ? (
                <StatedText
                  label={`Name of ${field.name}`}
                  value={field.name}
                  className="w-44"
                  onState={(name) => name && onState(keys[i], { name })}
                />
              ) : (
                field.name
              )}
            </td>
            <td>{field.location}s</td>
            <td>
              {sayKind(field)}
              {field.joinedFrom.length > 0 && (
                <span className="block text-xs text-soft">
                  from {field.joinedFrom.join(', ')}
                  {onApart && (
                    <button
                      type="button"
                      className="ml-2 font-medium text-accent hover:underline"
                      aria-label={`Keep the components of ${field.name} apart`}
                      onClick={() => onApart(field.name)}
                    >
                      keep apart
                    </button>
                  )}
                </span>
              )}
            </td>
            <td className="text-soft">
              {onState && !field.complex ? (
                <select
                  className="field h-7 w-36"
                  aria-label={`What ${field.name} is`}
                  value={field.role}
                  onChange={(e) => onState(keys[i], { role: e.target.value as FieldRole })}
                >
                  {fieldRoles.map((role) => (
                    <option key={role} value={role}>
                      {role === 'other' ? 'something else' : role}
                    </option>
                  ))}
                </select>
              ) : (
                sayRole(field)
              )}
            </td>
            <td className="tabular-nums">{sayRange(field)}</td>
            <td>
              {onState ? (
                <StatedText
                  label={`Unit of ${field.name}`}
                  value={field.unit ?? ''}
                  hint="no unit"
                  className="w-24"
                  onState={(unit) => onState(keys[i], { unit: unit || null })}
                />
              ) : units ? (
                <input
                  className="field h-7 w-24"
                  aria-label={`Unit of ${field.name}`}
                  placeholder="no unit"
                  value={(keys[i] in units ? units[keys[i]] : field.unit) ?? ''}
                  onChange={(e) => onUnit(keys[i], e.target.value)}
                />
              ) : (
                (field.unit ?? <span className="text-soft">no unit</span>)
              )}
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

function sayRole({ role, complex }: InspectedField): string {
  if (complex)
    return `${complex.half} part of ${complex.of}`
      .replace('amplitude part', 'amplitude')
      .replace('phase part', 'phase');
  return role === 'other' ? '' : role;
}

function sayRange(field: InspectedField): string {
  if (field.min !== null && field.max !== null) return `${sayNumber(field.min)} … ${sayNumber(field.max)}`;
  const known = field.componentRanges.filter((r) => r.min !== null);
  if (known.length === 0) return 'no values';
  return `${sayNumber(Math.min(...known.map((r) => r.min!)))} … ${sayNumber(Math.max(...known.map((r) => r.max!)))}`;
}

/** Groups that the files name, in one line each. */
export function SetList({ report }: { report: InspectedRun }) {
  if (report.sets.length === 0) return null;
  return (
    <p className="mt-4">
      <span className="head mr-2">Part sets</span>
      {report.sets
        .map((s) => `${s.name} (${count(s.parts.reduce((n, p) => n + p.cells, 0))} cells)`)
        .join(', ')}
    </p>
  );
}

/** Inputs and results the files state about the run as a whole. */
export function ParameterList({ report }: { report: InspectedRun }) {
  const entries = Object.entries(report.parameters);
  if (entries.length === 0) return null;
  return (
    <p className="mt-4 tabular-nums">
      <span className="head mr-2">Parameters</span>
      {entries
        .map(([name, value]) => `${name} ${typeof value === 'number' ? sayNumber(value) : value}`)
        .join(', ')}
    </p>
  );
}

export function Notes({ warnings }: { warnings: string[] }) {
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
