import { type ReactNode, useEffect, useRef, useState } from 'react';
import type { Vector } from '#core/model/vectors.ts';
import { axisOf } from '#core/ops/kernels/planes.ts';
import { narrowNumberText, numberText, typedNumber } from '../number-text.ts';

/** A label and what belongs to it. */
export function Row({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="flex items-center gap-2">
      <span className="w-20 shrink-0 text-soft">{label}</span>
      {children}
    </div>
  );
}

/** The three axes as directions. */
export function AxisButtons({
  normal,
  disabled = false,
  onTurn,
}: {
  normal: Vector;
  disabled?: boolean;
  onTurn(v: Vector): void;
}) {
  const axis = axisOf(normal);
  return (
    <>
      {['x', 'y', 'z'].map((name, k) => (
        <button
          key={name}
          type="button"
          disabled={disabled}
          aria-pressed={axis === k}
          className={`size-7 shrink-0 rounded-full border text-sm ${axis === k ? 'border-accent bg-accent text-on-accent' : 'border-rule hover:border-soft'}`}
          onClick={() => onTurn([k === 0 ? 1 : 0, k === 1 ? 1 : 0, k === 2 ? 1 : 0])}
        >
          {name}
        </button>
      ))}
    </>
  );
}

interface TripleProps {
  value: Vector;
  label: string;
  disabled?: boolean;
  onChange(v: Vector): void;
}

/** Three numbers of a place. */
export function Triple({ value, label, disabled = false, onChange }: TripleProps) {
  return (
    <>
      {value.map((v, k) => (
        <NarrowNumber
          key={`${k}-${v}`}
          value={v}
          label={`${label} ${'xyz'[k]}`}
          disabled={disabled}
          onType={(typed) => onChange(value.map((w, j) => (j === k ? typed : w)) as Vector)}
        />
      ))}
    </>
  );
}

/**
 * Three numbers of a direction, taken together when all are typed. Its length does not matter; what was typed stays as
 * it was typed.
 */
export function DirectionTriple({ value, label, disabled = false, onChange }: TripleProps) {
  const [typed, setTyped] = useState<Vector>(value);
  const shown = sameDirection(typed, value) ? typed : value;
  const draft = useRef<Vector>(shown);
  const text = shown.join();
  useEffect(() => {
    draft.current = text.split(',').map(Number) as Vector;
  }, [text]);
  return (
    <fieldset
      className="contents"
      onBlur={(e) => {
        if (e.currentTarget.contains(e.relatedTarget)) return;
        const next = draft.current;
        if (next.every((v, k) => v === shown[k]) || Math.hypot(...next) < 1e-9) return;
        setTyped(next);
        onChange(next);
      }}
    >
      {shown.map((v, k) => (
        <NarrowNumber
          key={`${k}-${v}`}
          value={v}
          label={`${label} ${'xyz'[k]}`}
          disabled={disabled}
          onType={(one) => {
            draft.current = draft.current.map((w, j) => (j === k ? one : w)) as Vector;
          }}
        />
      ))}
    </fieldset>
  );
}

function sameDirection(a: Vector, b: Vector): boolean {
  const [la, lb] = [Math.hypot(...a), Math.hypot(...b)];
  return la > 0 && lb > 0 && a.every((v, k) => Math.abs(v / la - b[k] / lb) < 1e-6);
}

interface NarrowProps {
  value: number;
  label: string;
  disabled: boolean;
  onType(v: number): void;
}

function NarrowNumber({ value, label, disabled, onType }: NarrowProps) {
  const text = narrowNumberText(value);
  return (
    <input
      aria-label={label}
      title={numberText(value)}
      disabled={disabled}
      className="field h-7 w-12 min-w-0 flex-1 px-1 text-sm tabular-nums"
      defaultValue={text}
      onBlur={(e) => {
        const typed = typedNumber(e.target.value);
        if (typed === null) e.target.value = text;
        else if (e.target.value !== text) onType(typed);
      }}
      onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
    />
  );
}
