import { ArrowDown, ArrowUp } from 'lucide-react';
import { sayNumber } from '#core/language/sentence.ts';
import { endsOfNumbers } from '#core/sets/column-numbers.ts';
import type { ColumnRole, RunColumn } from '#core/sets/run-table.ts';
import type { RowFilter } from '#core/sets/shown-rows.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { Chooser } from '#web/desks/stage/Chooser.tsx';
import { roleWords } from './columns-in-order.ts';
import { editSet, setNow, useRunSet } from './set-store.ts';

/** The head of a column: what it is, and all that can be done with it. */
export function ColumnMenu({ column }: { column: RunColumn }) {
  const { view } = useRunSet();
  const { key, name, unit, role, numeric } = column;
  const isSorted = view.sort?.key === key;
  const isFiltered = view.filters.some((f) => f.key === key);
  return (
    <th
      scope="col"
      aria-sort={isSorted ? (view.sort!.down ? 'descending' : 'ascending') : 'none'}
      className="sticky top-0 z-10 h-12 border-b border-rule bg-paper p-0"
    >
      <Chooser
        label={`Column ${name}`}
        side="bottom"
        look={`flex size-full min-w-0 flex-col justify-center px-2 hover:bg-sunk ${numeric ? 'items-end' : 'items-start'} ${isFiltered ? 'bg-accent-wash' : ''}`}
        word={
          <>
            <span className="flex max-w-full items-center gap-1">
              {isSorted && (view.sort!.down ? <ArrowDown size={13} /> : <ArrowUp size={13} />)}
              <span className="truncate font-medium">{name}</span>
              {unit && <span className="shrink-0 text-soft">{unit}</span>}
            </span>
            <span className={`text-xs ${role === 'output' ? 'text-accent' : 'text-soft'}`}>
              {roleWords[role].name}
            </span>
          </>
        }
      >
        <ColumnChoices column={column} />
      </Chooser>
    </th>
  );
}

function ColumnChoices({ column }: { column: RunColumn }) {
  const { key, name, unit, role } = column;
  const { view } = useRunSet();
  const change = (to: Parameters<typeof editSet>[0] & { type: 'set.column' }): void =>
    editSet(to, `column ${key}`);
  const sort = view.sort?.key === key ? (view.sort.down ? 'down' : 'up') : null;
  return (
    <div className="flex flex-col gap-3">
      <fieldset className="min-w-0">
        <legend className="head mb-1">It is an</legend>
        <div className="flex flex-wrap gap-1.5">
          {(Object.keys(roleWords) as ColumnRole[]).map((one) => (
            <Pill
              key={one}
              on={role === one}
              title={roleWords[one].says}
              onClick={() => editSet({ type: 'set.column', key, change: { role: one } })}
            >
              {roleWords[one].name}
            </Pill>
          ))}
        </div>
      </fieldset>
      <div className="flex gap-2">
        <label className="min-w-0 flex-1">
          <span className="head block">Called</span>
          <input
            className="field w-full"
            value={name}
            onChange={(e) =>
              e.target.value && change({ type: 'set.column', key, change: { name: e.target.value } })
            }
          />
        </label>
        <label className="w-20">
          <span className="head block">In</span>
          <input
            className="field w-full"
            placeholder="no unit"
            value={unit ?? ''}
            onChange={(e) => change({ type: 'set.column', key, change: { unit: e.target.value || null } })}
          />
        </label>
      </div>
      <fieldset className="min-w-0">
        <legend className="head mb-1">Rows</legend>
        <div className="flex flex-wrap gap-1.5">
          <Pill on={sort === 'up'} onClick={() => sortBy(key, sort === 'up' ? null : false)}>
            upwards
          </Pill>
          <Pill on={sort === 'down'} onClick={() => sortBy(key, sort === 'down' ? null : true)}>
            downwards
          </Pill>
          <Pill
            on={view.group === key}
            onClick={() => editSet({ type: 'set.view', change: { group: view.group === key ? null : key } })}
          >
            in groups
          </Pill>
        </div>
      </fieldset>
      <FilterFields column={column} />
    </div>
  );
}

const sortBy = (key: string, down: boolean | null): void =>
  editSet({ type: 'set.view', change: { sort: down === null ? null : { key, down } } });

/** A filter of a column in place of the one it has; null for none. */
function setFilter(key: string, filter: RowFilter | null): void {
  const others = setNow().view.filters.filter((f) => f.key !== key);
  editSet(
    { type: 'set.view', change: { filters: filter ? [...others, filter as never] : others } },
    `filter ${key}`,
  );
}

/** More different texts than this are not listed. */
const MOST_TEXTS = 60;

function FilterFields({ column: { key, numeric, values } }: { column: RunColumn }) {
  const filter = useRunSet().view.filters.find((f) => f.key === key);
  const known = values.filter((v) => v !== null);
  if (known.length === 0) return null;
  if (numeric) {
    const [low, high] = endsOfNumbers(known as number[]);
    const between = filter?.kind === 'between' ? filter : { low: null, high: null };
    const set = (change: { low?: number | null; high?: number | null }): void => {
      const next = { low: between.low, high: between.high, ...change };
      const isNone = next.low === null && next.high === null;
      setFilter(key, isNone ? null : { kind: 'between', key, ...next });
    };
    return (
      <fieldset className="min-w-0">
        <legend className="head mb-1">Only from … to …</legend>
        <div className="flex items-center gap-2">
          <EndField label="Only from" value={between.low} usual={low} onChange={(v) => set({ low: v })} />
          <span className="text-soft">to</span>
          <EndField label="Only to" value={between.high} usual={high} onChange={(v) => set({ high: v })} />
        </div>
      </fieldset>
    );
  }
  const texts = [...new Set(known.map(String))].sort();
  const among = filter?.kind === 'among' ? filter.texts : null;
  const shown = (text: string): boolean => among === null || among.includes(text);
  return (
    <fieldset className="min-w-0">
      <legend className="head mb-1">Only</legend>
      <div className="flex max-h-48 flex-col overflow-y-auto">
        {texts.slice(0, MOST_TEXTS).map((text) => (
          <Tick
            key={text}
            label={text}
            checked={shown(text)}
            onChange={(on) => {
              const next = texts.filter((t) => (t === text ? on : shown(t)));
              setFilter(key, next.length === texts.length ? null : { kind: 'among', key, texts: next });
            }}
          />
        ))}
      </div>
      {texts.length > MOST_TEXTS && (
        <p className="text-xs text-soft">{texts.length - MOST_TEXTS} more are not listed</p>
      )}
    </fieldset>
  );
}

interface EndProps {
  label: string;
  value: number | null;
  /** Shown where none is typed. */
  usual: number;
  onChange(value: number | null): void;
}

function EndField({ label, value, usual, onChange }: EndProps) {
  const confirm = (text: string): void => {
    const number = Number(text.replace(',', '.'));
    if (text.trim() === '') onChange(null);
    else if (Number.isFinite(number)) onChange(number);
  };
  return (
    <input
      key={value}
      aria-label={label}
      className="field w-24 min-w-0 tabular-nums"
      placeholder={sayNumber(usual)}
      defaultValue={value ?? ''}
      onBlur={(e) => confirm(e.currentTarget.value)}
      onKeyDown={(e) => e.key === 'Enter' && confirm(e.currentTarget.value)}
    />
  );
}
