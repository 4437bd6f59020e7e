import { useEffect, useId, useRef, useState } from 'react';
import type { Completion } from '#core/language/template.ts';

interface Props {
  label: string;
  value: string;
  /** Whether it may have several lines: then Shift Enter begins a new one, and in paragraphs Enter alone. */
  lines: boolean | 'paragraphs';
  placeholder?: string;
  /** What could stand at the caret; null where nothing can. */
  completions(text: string, caret: number): Completion[] | null;
  /** What of it is not understood. */
  troubles: readonly string[];
  /** Told of every letter. */
  onChange(text: string): void;
  /** Enter or Escape was pressed, or it was left. */
  onDone?(): void;
}

/** How many values are shown at once. */
const SHOWN = 7;

/** A text with values in braces; once one is opened, what could stand there is offered, and Tab takes it. */
export function ValuesField({
  label,
  value,
  lines,
  placeholder,
  completions,
  troubles,
  onChange,
  onDone,
}: Props) {
  const field = useRef<HTMLTextAreaElement>(null);
  const [caret, setCaret] = useState(value.length);
  const [chosen, setChosen] = useState(0);
  const [closed, setClosed] = useState(true);
  const list = useId();
  const offered = closed ? [] : (completions(value, caret) ?? []).slice(0, 60);
  const from = Math.max(0, Math.min(chosen - SHOWN + 1, offered.length - SHOWN));
  const begun = useRef<number | null>(null);
  useEffect(() => {
    if (begun.current === null) return;
    field.current?.setSelectionRange(begun.current, begun.current);
    begun.current = null;
  });
  const take = (i: number): void => {
    const one = offered[i];
    if (!one) return;
    begun.current = one.caret;
    setCaret(one.caret);
    setClosed(true);
    onChange(one.text);
    field.current?.focus();
  };
  return (
    <div>
      <textarea
        ref={field}
        aria-label={label}
        aria-invalid={troubles.length > 0}
        aria-controls={offered.length > 0 ? list : undefined}
        className="field block h-auto w-full resize-none py-1 leading-snug"
        rows={lines === 'paragraphs' ? 5 : Math.max(1, value.split('\n').length)}
        style={lines === 'paragraphs' ? { fieldSizing: 'content', maxHeight: '22rem' } : undefined}
        spellCheck={lines === 'paragraphs'}
        placeholder={placeholder}
        value={value}
        onChange={(e) => {
          const text = lines ? e.target.value : e.target.value.replace(/\n/g, ' ');
          setCaret(e.target.selectionStart);
          setChosen(0);
          setClosed(false);
          onChange(text);
        }}
        onSelect={(e) => setCaret(e.currentTarget.selectionStart)}
        onBlur={() => {
          setClosed(true);
          onDone?.();
        }}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (offered.length > 0 && (e.key === 'ArrowDown' || e.key === 'ArrowUp')) {
            e.preventDefault();
            const by = e.key === 'ArrowDown' ? 1 : -1;
            setChosen((chosen + by + offered.length) % offered.length);
          } else if (offered.length > 0 && (e.key === 'Tab' || (e.key === 'Enter' && !e.shiftKey))) {
            e.preventDefault();
            take(chosen);
          } else if (e.key === 'Escape') {
            e.preventDefault();
            if (offered.length > 0) setClosed(true);
            else e.currentTarget.blur();
          } else if (e.key === 'Enter' && lines !== 'paragraphs' && !(lines && e.shiftKey)) {
            e.preventDefault();
            e.currentTarget.blur();
          }
        }}
      />
      {offered.length > 0 && (
        <div id={list} role="listbox" tabIndex={-1} aria-label="Values" className="card mt-1 p-1">
          {offered.slice(from, from + SHOWN).map(({ word }, i) => (
            <button
              key={word.name}
              type="button"
              role="option"
              aria-selected={from + i === chosen}
              className={`flex w-full items-baseline gap-2 rounded-md px-2 py-0.5 text-left ${from + i === chosen ? 'bg-accent-wash' : 'hover:bg-sunk'}`}
              // The field keeps the focus.
              onPointerDown={(e) => e.preventDefault()}
              onClick={() => take(from + i)}
            >
              <span className="font-medium">{word.name}</span>
              <span className="min-w-0 flex-1 truncate text-right text-xs text-soft">
                {word.says}
                {word.unit ? `, ${word.unit}` : ''}
              </span>
            </button>
          ))}
          {offered.length > SHOWN && (
            <p className="px-2 pt-0.5 text-xs text-soft">{offered.length - SHOWN} more: go on typing</p>
          )}
        </div>
      )}
      {troubles.map((trouble) => (
        <p key={trouble} role="alert" className="mt-1 text-xs text-warn">
          {trouble}
        </p>
      ))}
    </div>
  );
}
