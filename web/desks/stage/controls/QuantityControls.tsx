import { quantityOf } from '#core/language/phrase.ts';
import type { Levels } from '#core/model/levels.ts';
import type { Quantity } from '#core/model/quantity.ts';
import { roundTo } from '../round-to.ts';
import type { ControlProps, Options } from './control-props.ts';
import { Row } from './VectorControls.tsx';

/** Stands among the choices for no quantity. */
const NONE = -2;

/** A quantity of the run; what depends on its values begins anew. */
export function QuantityControl({ control, options, setting, set }: ControlProps<'quantity'>) {
  const choices = setting.quantities.filter((q) => !control.vectors || q.component === 'magnitude');
  const value = quantityOf(options, setting, control.key, control.component);
  const none = control.none !== undefined && options[control.key] === '';
  const index = value ? choices.indexOf(value) : none ? NONE : -1;
  const choose = (q: Quantity): void =>
    set({ [control.key]: q.field, [control.component]: q.component, ...freshValues(options, q) });
  return (
    <Row label={control.label}>
      <select
        aria-label={control.label}
        className="field h-7 min-w-0 flex-1"
        value={index}
        onChange={(e) => {
          const chosen = choices[Number(e.target.value)];
          if (chosen) choose(chosen);
          else set({ [control.key]: '' });
        }}
      >
        {control.none && <option value={NONE}>{control.none}</option>}
        {index === -1 && <option value={-1}>not in this run</option>}
        {choices.map((q, i) => (
          <option key={q.name} value={i}>
            {q.name}
          </option>
        ))}
      </select>
    </Row>
  );
}

/** Another quantity has other values: those that make no sense any more begin anew. */
function freshValues(options: Options, q: Quantity): Options {
  const at = (share: number): number => roundTo(q.low + share * (q.high - q.low), q.high - q.low || 1);
  const out: Options = {};
  const levels = options.levels as Levels | undefined;
  if (levels?.kind === 'list') out.levels = { kind: 'list', values: [at(0.5)] };
  if (levels?.kind === 'count' || levels?.kind === 'log')
    out.levels = { ...levels, low: at(0.1), high: at(0.9) };
  if (typeof options.value === 'number') Object.assign(out, { value: at(0.5), second: at(0.75) });
  if (typeof options.low === 'number') Object.assign(out, { low: at(0), high: at(1) });
  return out;
}

export function ConditionControl({ control, options, set }: ControlProps<'condition'>) {
  const value = String(options[control.key]);
  return (
    <label className="block">
      <span className="text-soft">{control.label}</span>
      <textarea
        key={value}
        rows={2}
        className="field mt-1 h-auto w-full py-1 font-mono text-xs"
        defaultValue={value}
        placeholder={'temperature > 200 and not part == "rack"'}
        onBlur={(e) => e.target.value !== value && set({ [control.key]: e.target.value })}
        onKeyDown={(e) => {
          if (e.key === 'Enter' && !e.shiftKey) {
            e.preventDefault();
            e.currentTarget.blur();
          }
        }}
      />
    </label>
  );
}
