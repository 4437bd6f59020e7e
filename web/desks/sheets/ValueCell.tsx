import { useEffect, useRef, useState } from 'react';
import type { RunColumn } from '#core/sets/run-table.ts';
import { sayValue } from './say-value.ts';
import { editSet, useRunSet } from './set-store.ts';

interface Props {
  column: RunColumn;
  row: number;
  /** Of the run. */
  id: string;
  name: string;
}

/** What a run says; a double click or Enter lets one type something else, nothing typed lets the files speak again. */
export function ValueCell({ column, row, id, name }: Props) {
  const [isEdited, setEdited] = useState(false);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.select(), [isEdited]);
  const isTyped = useRunSet().typed[id]?.[column.key] !== undefined;
  const value = column.values[row];
  const label = `${column.name} of ${name}`;
  const confirm = (text: string): void => {
    setEdited(false);
    const said = text.trim();
    if (said === (value === null ? '' : String(value))) return;
    const number = Number(said.replace(',', '.'));
    const typed = said === '' ? null : Number.isFinite(number) ? number : said;
    editSet({ type: 'set.type', run: id, key: column.key, value: typed });
  };
  if (isEdited)
    return (
      <input
        ref={field}
        aria-label={label}
        className="field w-full text-right tabular-nums"
        defaultValue={value === null ? '' : String(value)}
        onBlur={(e) => confirm(e.currentTarget.value)}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') confirm(e.currentTarget.value);
          if (e.key === 'Escape') setEdited(false);
        }}
      />
    );
  return (
    <button
      type="button"
      className={`max-w-full truncate rounded px-1 tabular-nums ${isTyped ? 'underline decoration-accent decoration-dotted underline-offset-[3px]' : ''} ${value === null ? 'text-soft' : ''}`}
      aria-label={`${label}: ${sayValue(value)}`}
      title={
        isTyped
          ? 'Typed here. Double click to change it; empty it to go back to what the files say.'
          : 'Double click to type another value'
      }
      onDoubleClick={() => setEdited(true)}
      onKeyDown={(e) => {
        if (e.key !== 'Enter' && e.key !== 'F2') return;
        e.preventDefault();
        setEdited(true);
      }}
    >
      {sayValue(value)}
    </button>
  );
}
