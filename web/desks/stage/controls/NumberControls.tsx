import { fieldUnit, quantityOf } from '#core/language/phrase.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { NumberField } from '../Chooser.tsx';
import { roundTo } from '../round-to.ts';
import type { ControlProps } from './control-props.ts';

interface SlidingProps {
  label: string;
  /** Of the slider, where it is not that of the number. */
  slider?: string;
  value: number;
  unit: string | null;
  range: [number, number] | null;
  whole?: boolean;
  onChange(value: number, sliding: boolean): void;
}

/** A number to type, and to slide where its range is known. */
export function SlidingNumber({ label, slider = label, value, unit, range, whole, onChange }: SlidingProps) {
  return (
    <div className="flex min-w-0 max-w-full items-center gap-2">
      <NumberField
        label={<span className="inline-block w-20 text-soft">{label}</span>}
        value={value}
        unit={unit}
        onChange={(v) => onChange(whole ? Math.round(v) : v, false)}
      />
      {range && range[1] > range[0] && (
        <input
          type="range"
          aria-label={slider}
          className="min-w-0 flex-1"
          min={range[0]}
          max={range[1]}
          step={whole ? 1 : (range[1] - range[0]) / 400}
          value={value}
          onChange={(e) => {
            const v = Number(e.target.value);
            onChange(whole ? v : roundTo(v, range[1] - range[0]), true);
          }}
        />
      )}
    </div>
  );
}

export function NumberControl({ control, options, setting, set }: ControlProps<'number'>) {
  const { key, label, unit, whole, range } = control;
  const value = options[key] as number | null;
  const units = { length: setting.lengthUnit, angle: '°', percent: '%', field: fieldUnit(options, setting) };
  const number = (
    <SlidingNumber
      label={label}
      value={value ?? 1}
      unit={unit ? units[unit] : null}
      range={range?.(options, setting) ?? null}
      whole={whole}
      onChange={(v, sliding) => set({ [key]: v }, sliding ? `slide-${key}` : null)}
    />
  );
  if (!control.none) return number;
  return (
    <div className="flex flex-wrap items-center gap-2">
      {value === null ? <span className="w-20 text-soft">{label}</span> : number}
      <Pill on={value === null} onClick={() => set({ [key]: value === null ? 1 : null })}>
        {control.none}
      </Pill>
    </div>
  );
}

/** Two numbers as the ends of a range of the quantity. */
export function SpanControl({ control, options, setting, set }: ControlProps<'span'>) {
  const q = quantityOf(options, setting);
  return (
    <>
      {[control.key, control.high].map((key, i) => (
        <SlidingNumber
          key={key}
          label={i === 0 ? control.label : 'and'}
          slider={`${control.label}, ${i === 0 ? 'lower' : 'upper'} end`}
          value={options[key] as number}
          unit={q?.unit ?? null}
          range={q ? [q.low, q.high] : [0, 1]}
          onChange={(v, sliding) => set({ [key]: v }, sliding ? `slide-${key}` : null)}
        />
      ))}
    </>
  );
}

/** Two numbers, or none. */
export function PairControl({ control, options, set }: ControlProps<'pair'>) {
  const { key, label, none } = control;
  const value = options[key] as [number, number] | null;
  return (
    <div className="flex flex-wrap items-center gap-2">
      <span className="w-20 text-soft">{label}</span>
      {value && (
        <>
          <NumberField label="" value={value[0]} onChange={(v) => set({ [key]: [v, value[1]] })} />
          <NumberField label="to" value={value[1]} onChange={(v) => set({ [key]: [value[0], v] })} />
        </>
      )}
      {none && (
        <Pill on={value === null} onClick={() => set({ [key]: value === null ? [0, 1] : null })}>
          {none}
        </Pill>
      )}
    </div>
  );
}

/** A gauge, a chart or a curve of the scene. */
export function NamedControl({ control, options, setting, set }: ControlProps<'named'>) {
  const { key, label, of } = control;
  return (
    <label className="flex items-center gap-2">
      <span className="w-20 text-soft">{label}</span>
      <select
        className="field h-7 min-w-0 flex-1"
        value={String(options[key])}
        onChange={(e) => set({ [key]: e.target.value })}
      >
        <option value="">choose one …</option>
        {(setting[of] ?? []).map((c) => (
          <option key={c.value} value={c.value}>
            {c.text}
          </option>
        ))}
      </select>
    </label>
  );
}
