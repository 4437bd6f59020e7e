import { sameJson } from '#core/model/same-json.ts';
import type { Choice as ChoiceOf } from '#core/ops/chain/operation.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { Choice } from '../Chooser.tsx';
import type { ControlProps } from './control-props.ts';
import { Row } from './VectorControls.tsx';

export function TickControl({ control, options, set }: ControlProps<'tick'>) {
  return (
    <Tick
      label={control.label}
      checked={options[control.key] === true}
      onChange={(on) => set({ [control.key]: on })}
    />
  );
}

/** Whether choices need a line each. */
const isLong = (choices: readonly ChoiceOf[]): boolean =>
  choices.some((c) => c.purpose || c.colours || c.label.length > 22);

/** A few words as a row to choose from; choices with a purpose, colours or many words one below the other. */
export function ChoiceControl({ control, options, set }: ControlProps<'choice'>) {
  const { choices, key, label } = control;
  if (isLong(choices))
    return (
      <fieldset>
        <legend className="head mb-1.5">{label}</legend>
        {choices.map((c) => (
          <Choice
            key={String(c.value)}
            chosen={sameJson(c.value, options[key])}
            onChoose={() => set({ [key]: c.value })}
          >
            {c.colours && (
              <span
                className="h-4 w-7 shrink-0 rounded-sm border border-rule"
                style={{ background: `linear-gradient(${c.colours.join(', ')})` }}
              />
            )}
            <span>
              {c.label}
              {c.purpose && <span className="block text-xs font-normal text-soft">{c.purpose}</span>}
            </span>
          </Choice>
        ))}
      </fieldset>
    );
  return (
    <Row label={label}>
      <div className="flex flex-wrap gap-1">
        {choices.map((c) => (
          <Pill
            key={String(c.value)}
            on={sameJson(c.value, options[key])}
            onClick={() => set({ [key]: c.value })}
          >
            {c.label}
          </Pill>
        ))}
      </div>
    </Row>
  );
}

export function ShareControl({ control, options, set }: ControlProps<'share'>) {
  const { key, label } = control;
  const value = options[key] as number;
  return (
    <div className="flex items-center gap-2">
      <span className="w-20 shrink-0 text-soft">{label}</span>
      <input
        type="range"
        aria-label={label}
        className="min-w-0 flex-1"
        min={0}
        max={1}
        step={0.01}
        value={value}
        onChange={(e) => set({ [key]: Number(e.target.value) }, `slide-${key}`)}
      />
      <span className="w-12 text-right whitespace-nowrap tabular-nums">{Math.round(value * 100)} %</span>
    </div>
  );
}

export function WordControl({ control, options, setting, set }: ControlProps<'word'>) {
  const { key, label } = control;
  return (
    <Row label={label}>
      <select
        aria-label={label}
        className="field h-7"
        value={(options[key] as string | null) ?? control.usual(setting)}
        onChange={(e) => set({ [key]: e.target.value })}
      >
        {control.words(setting).map((word) => (
          <option key={word}>{word}</option>
        ))}
      </select>
    </Row>
  );
}

export function WordsControl({ control, options, set }: ControlProps<'words'>) {
  const { key, label, hint } = control;
  return (
    <Row label={label}>
      <input
        className="field h-7 min-w-0 flex-1"
        aria-label={label}
        placeholder={hint}
        value={(options[key] as string | null) ?? ''}
        onChange={(e) => set({ [key]: e.target.value || null }, `words-${key}`)}
      />
    </Row>
  );
}

export function ColourControl({ control, options, set }: ControlProps<'colour'>) {
  const { key, label } = control;
  return (
    <Row label={label}>
      <input
        type="color"
        aria-label={label}
        className="h-6 w-8"
        value={(options[key] as string | null) ?? '#d8d2c8'}
        onChange={(e) => set({ [key]: e.target.value }, `colour-${key}`)}
      />
      {control.none && (
        <Pill on={options[key] === null} onClick={() => set({ [key]: null })}>
          {control.none}
        </Pill>
      )}
    </Row>
  );
}

/** A step of the run, or the one on show. */
export function StepControl({ control, options, setting, set }: ControlProps<'step'>) {
  const value = options[control.key];
  return (
    <Row label={control.label}>
      <select
        aria-label={control.label}
        className="field h-7"
        value={value === null ? '' : String(value)}
        onChange={(e) => set({ [control.key]: e.target.value === '' ? null : Number(e.target.value) })}
      >
        <option value="">the step on show</option>
        {Array.from({ length: setting.steps }, (_, i) => (
          <option key={i} value={i}>
            step {i}
          </option>
        ))}
      </select>
    </Row>
  );
}
