import type { ReactNode } from 'react';
import { axisOf } from '#core/ops/kernels/planes.ts';
import type { Vector } from '#core/scene/camera.ts';

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

/** Three numbers of a place or direction. */
export function Triple({
  value,
  label,
  disabled = false,
  onChange,
}: {
  value: Vector;
  label: string;
  disabled?: boolean;
  onChange(v: Vector): void;
}) {
  return (
    <>
      {value.map((v, k) => (
        <input
          key={`${k}-${v}`}
          aria-label={`${label} ${'xyz'[k]}`}
          disabled={disabled}
          className="field h-7 w-12 min-w-0 flex-1 px-1.5 tabular-nums"
          defaultValue={Number(v.toPrecision(4))}
          onBlur={(e) => {
            const typed = Number(e.target.value.replace(',', '.').replace('−', '-'));
            if (e.target.value.trim() !== '' && Number.isFinite(typed) && typed !== Number(v.toPrecision(4)))
              onChange(value.map((w, j) => (j === k ? typed : w)) as Vector);
            else e.target.value = String(Number(v.toPrecision(4)));
          }}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        />
      ))}
    </>
  );
}
