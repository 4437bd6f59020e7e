import { useState } from 'react';
import type { TimeChoice } from '#core/formats/series.ts';
import type { Arrangement, RunPlan } from '#core/model/run-plan.ts';
import type { ArrangeWish } from '#web/server/reading-jobs.ts';

interface Props {
  plan: RunPlan;
  files: number;
  busy: boolean;
  onArrange(wish: ArrangeWish): void;
}

const ways: [Arrangement, string][] = [
  ['steps', 'one after another in time'],
  ['parts', 'side by side, as parts'],
  ['pieces', 'partitions of one part'],
  ['steps of pieces', 'steps of partitions'],
  ['runs', 'runs of their own'],
];

/** How the files of a run stand to each other and in time; every word of it can be corrected. */
export function Grouping({ plan, files, busy, onArrange }: Props) {
  const [times, setTimes] = useState<TimeChoice>({ kind: 'stated' });
  const wish = (more: Partial<ArrangeWish>): ArrangeWish => ({
    as: plan.collection ? null : plan.arrangement,
    times,
    reading: plan.reading,
    apart: plan.apart ?? [],
    ...more,
  });
  const changeTimes = (next: TimeChoice) => {
    setTimes(next);
    if (next.kind !== 'typed' || Number.isFinite(next.start + next.interval))
      onArrange(wish({ times: next }));
  };
  const typed = times.kind === 'typed' ? times : null;
  const number = (label: string, value: number, change: (v: number) => void) => (
    <input
      className="field h-7 w-20 text-sm"
      aria-label={label}
      type="number"
      step="any"
      defaultValue={value}
      disabled={busy}
      onBlur={(e) => change(e.target.valueAsNumber)}
      onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
    />
  );
  if (files < 2 && plan.steps.length < 2) return null;
  return (
    <div className="mt-2 flex flex-wrap items-center gap-x-2 gap-y-1.5 text-soft">
      {files > 1 && (
        <label className="flex items-center gap-2">
          The {files} files are
          <select
            className="field h-7 text-sm"
            aria-label="The files are"
            value={plan.collection ? 'collection' : plan.arrangement}
            disabled={busy}
            onChange={(e) => onArrange(wish({ as: e.target.value as Arrangement }))}
          >
            {plan.collection && <option value="collection">as their list says</option>}
            {ways.map(([as, label]) => (
              <option key={as} value={as}>
                {label}
              </option>
            ))}
          </select>
        </label>
      )}
      {plan.steps.length > 1 && (
        <label className="flex items-center gap-2">
          with times
          <select
            className="field h-7 text-sm"
            aria-label="Times come"
            value={times.kind}
            disabled={busy}
            onChange={(e) => {
              const kind = e.target.value as TimeChoice['kind'];
              changeTimes(kind === 'typed' ? { kind, start: 0, interval: 1 } : { kind });
            }}
          >
            <option value="stated">as the files say</option>
            <option value="names">from the names</option>
            <option value="typed">that I type</option>
          </select>
        </label>
      )}
      {typed && (
        <span className="flex items-center gap-2">
          from {number('Time of the first step', typed.start, (start) => changeTimes({ ...typed, start }))}{' '}
          every{' '}
          {number('Time between steps', typed.interval, (interval) => changeTimes({ ...typed, interval }))}
        </span>
      )}
    </div>
  );
}
