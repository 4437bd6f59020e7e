import { Crosshair } from 'lucide-react';
import { fieldUnit, quantityOf } from '#core/language/phrase.ts';
import type { Quantity } from '#core/model/quantity.ts';
import type { OperationSetting, OptionControl } from '#core/ops/chain/operation.ts';
import { understood, whyNotUnderstood } from '#core/ops/chain/understood.ts';
import { operations } from '#core/ops/registry.ts';
import type { Vector } from '#core/scene/camera.ts';
import type { Layer } from '#core/scene/document.ts';
import { settingOf } from '#core/scene/setting.ts';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { NumberField } from './Chooser.tsx';
import { edit, useDesk, useRun, useScene } from './desk-store.ts';
import { OpacityCurve } from './OpacityCurve.tsx';
import { PlaneControl } from './PlaneControl.tsx';
import { roundTo } from './round-to.ts';
import { AxisButtons, Row, Triple } from './VectorControls.tsx';

type Options = Record<string, unknown>;
type Control = OptionControl<Options>;

interface Props {
  layer: Layer;
  step: number;
  /** Only the control of one option. */
  only?: string;
}

/** Everything an operation can be told, built from what its file says; changes apply at once. */
export function OptionControls({ layer, step, only }: Props) {
  const run = useRun();
  const scene = useScene();
  const chainStep = layer.chain[step];
  const known = chainStep ? understood(chainStep) : null;
  if (!known) return chainStep ? <NotUnderstood layer={layer} step={step} /> : null;
  const { operation } = known;
  const options = known.options as Options;
  const setting = settingOf(run, scene, layer);
  const shown = (operation.controls as Control[]).filter((c) => {
    if (c.when && !c.when(options)) return false;
    if (!only) return true;
    return (
      c.key === only ||
      (c.kind === 'plane' && c.offset === only) ||
      (c.kind === 'span' && c.high === only) ||
      (c.kind === 'quantity' && c.component === only)
    );
  });
  return (
    <div className="flex flex-col gap-2">
      {shown.map((control) => (
        <OneControl
          key={`${control.key}/${control.label}`}
          control={control}
          options={options}
          setting={setting}
          layer={layer}
          step={step}
        />
      ))}
    </div>
  );
}

function NotUnderstood({ layer, step }: { layer: Layer; step: number }) {
  const run = useRun();
  const scene = useScene();
  const chainStep = layer.chain[step];
  const operation = operations.find((o) => o.id === chainStep.op);
  return (
    <p className="text-sm text-soft">
      {whyNotUnderstood(chainStep)} It is kept as it stands and passed over; take it away if it is not needed
      {operation ? ', or ' : '.'}
      {operation && (
        <button
          type="button"
          className="font-medium text-accent hover:underline"
          onClick={() => {
            const options = operation.defaults(settingOf(run, scene, layer)) as Options;
            edit({ type: 'chain.change', id: layer.id, step, options });
          }}
        >
          give it plain ones
        </button>
      )}
    </p>
  );
}

interface OneProps {
  control: Control;
  options: Options;
  setting: OperationSetting;
  layer: Layer;
  step: number;
}

function OneControl({ control, options, setting, layer, step }: OneProps) {
  const locked = options.locked === true && control.kind === 'plane';
  const set = (change: Options, key: string | null = null) =>
    edit({ type: 'chain.change', id: layer.id, step, options: change }, key && `${key}-${layer.id}-${step}`);
  const value = options[control.key];
  switch (control.kind) {
    case 'tick':
      return (
        <Tick label={control.label} checked={value === true} onChange={(on) => set({ [control.key]: on })} />
      );
    case 'choice':
      return (
        <Row label={control.label}>
          <div className="flex flex-wrap gap-1">
            {control.choices.map((c) => (
              <button
                key={String(c.value)}
                type="button"
                aria-pressed={c.value === value}
                className={`h-7 rounded-full border px-2.5 text-sm ${c.value === value ? 'border-accent bg-accent text-on-accent' : 'border-rule hover:border-soft'}`}
                onClick={() => set({ [control.key]: c.value })}
              >
                {c.label}
              </button>
            ))}
          </div>
        </Row>
      );
    case 'number': {
      const unit =
        control.unit === 'length'
          ? setting.lengthUnit
          : control.unit === 'angle'
            ? '°'
            : control.unit === 'percent'
              ? '%'
              : control.unit === 'field'
                ? fieldUnit(options, setting)
                : null;
      const range = control.range?.(options, setting);
      const fit = (v: number): number => (control.whole ? Math.round(v) : v);
      return (
        <div className="flex items-center gap-2">
          <NumberField
            label={<span className="inline-block w-20 text-soft">{control.label}</span>}
            value={value as number}
            unit={unit}
            onChange={(v) => set({ [control.key]: fit(v) })}
          />
          {range && range[1] > range[0] && (
            <input
              type="range"
              aria-label={control.label}
              className="min-w-0 flex-1"
              min={range[0]}
              max={range[1]}
              step={control.whole ? 1 : (range[1] - range[0]) / 400}
              value={value as number}
              onChange={(e) =>
                set(
                  {
                    [control.key]: control.whole
                      ? Number(e.target.value)
                      : roundTo(Number(e.target.value), range[1] - range[0]),
                  },
                  `slide-${control.key}`,
                )
              }
            />
          )}
        </div>
      );
    }
    case 'plane':
      return (
        <PlaneControl
          normal={value as Vector}
          offset={options[control.offset] as number}
          keys={[control.key, control.offset]}
          locked={locked}
          setting={setting}
          set={set}
        />
      );
    case 'direction':
      return (
        <Row label={control.label}>
          <AxisButtons normal={value as Vector} onTurn={(v) => set({ [control.key]: v })} />
          <Triple value={value as Vector} label={control.label} onChange={(v) => set({ [control.key]: v })} />
        </Row>
      );
    case 'place':
      return (
        <Row label={control.label}>
          <Triple value={value as Vector} label={control.label} onChange={(v) => set({ [control.key]: v })} />
          <button
            type="button"
            className="mark size-7"
            title="Point at a place on the picture"
            aria-label={`Point at ${control.label.toLowerCase()}`}
            onClick={() =>
              useDesk.setState({
                pointing: {
                  says: 'Click a place on the picture.',
                  onPick: ({ place }) => {
                    set({ [control.key]: place });
                    return true;
                  },
                },
              })
            }
          >
            <Crosshair size={15} />
          </button>
        </Row>
      );
    case 'quantity':
      return (
        <QuantityRow
          label={control.label}
          value={quantityOf(options, setting, control.key, control.component)}
          choices={setting.quantities.filter((q) => !control.vectors || q.component === 'magnitude')}
          onChange={(q) =>
            set({ [control.key]: q.field, [control.component]: q.component, ...freshValues(options, q) })
          }
        />
      );
    case 'numbers':
      return (
        <NumbersRow
          range={rangeOf(options, setting)}
          onSlide={(v) => set({ [control.key]: [v] }, `slide-${control.key}`)}
          label={control.label}
          value={value as number[]}
          onChange={(v) => set({ [control.key]: v })}
        />
      );
    case 'condition':
      return (
        <label className="block">
          <span className="text-soft">{control.label}</span>
          <textarea
            key={String(value)}
            rows={2}
            className="field mt-1 h-auto w-full py-1 font-mono text-xs"
            defaultValue={String(value)}
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
    case 'span': {
      const q = quantityOf(options, setting);
      const [low, high] = q ? [q.low, q.high] : [0, 1];
      return (
        <>
          {[control.key, control.high].map((key, i) => (
            <div key={key} className="flex items-center gap-2">
              <NumberField
                label={<span className="inline-block w-20 text-soft">{i === 0 ? control.label : 'and'}</span>}
                value={options[key] as number}
                unit={q?.unit ?? null}
                onChange={(v) => set({ [key]: v })}
              />
              <input
                type="range"
                aria-label={i === 0 ? `${control.label}, lower end` : `${control.label}, upper end`}
                className="min-w-0 flex-1"
                min={low}
                max={high}
                step={(high - low) / 400 || 1}
                value={options[key] as number}
                onChange={(e) => set({ [key]: roundTo(Number(e.target.value), high - low) }, `slide-${key}`)}
              />
            </div>
          ))}
        </>
      );
    }
    case 'step':
      return (
        <Row label={control.label}>
          <select
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
    case 'curve':
      return (
        <OpacityCurve
          layer={layer}
          curve={value as [number, number][]}
          onChange={(curve, key) => set({ [control.key]: curve }, key)}
        />
      );
  }
}

/** Another quantity has other values: those that make no sense any more begin anew. */
function freshValues(options: Options, q: Quantity): Options {
  const at = (share: number): number => roundTo(q.low + share * (q.high - q.low), q.high - q.low || 1);
  const out: Options = {};
  if (Array.isArray(options.values) && options.values.length > 0) out.values = [at(0.5)];
  if (typeof options.value === 'number') Object.assign(out, { value: at(0.5), second: at(0.75) });
  if (typeof options.low === 'number') Object.assign(out, { low: at(0), high: at(1) });
  return out;
}

function QuantityRow({
  label,
  value,
  choices,
  onChange,
}: {
  label: string;
  value: Quantity | undefined;
  choices: readonly Quantity[];
  onChange(q: Quantity): void;
}) {
  const index = value ? choices.indexOf(value) : -1;
  return (
    <Row label={label}>
      <select
        aria-label={label}
        className="field h-7 min-w-0 flex-1"
        value={index}
        onChange={(e) => onChange(choices[Number(e.target.value)])}
      >
        {index < 0 && <option value={-1}>not in this run</option>}
        {choices.map((q, i) => (
          <option key={q.name} value={i}>
            {q.name}
          </option>
        ))}
      </select>
    </Row>
  );
}

/** Lowest and highest value of the quantity that the options name. */
function rangeOf(options: Options, setting: OperationSetting): [number, number] | null {
  const q = quantityOf(options, setting);
  return q && q.high > q.low ? [q.low, q.high] : null;
}

function NumbersRow({
  label,
  value,
  range,
  onSlide,
  onChange,
}: {
  label: string;
  value: number[];
  range: [number, number] | null;
  onSlide(value: number): void;
  onChange(v: number[]): void;
}) {
  const text = value.map((v) => Number(v.toPrecision(7))).join('; ');
  return (
    <Row label={label}>
      <input
        key={text}
        aria-label={label}
        className="field h-7 min-w-0 flex-1 tabular-nums"
        defaultValue={text}
        title="Several numbers with semicolons between them"
        onBlur={(e) => {
          const list = e.target.value
            .split(/[;\s]+/)
            .filter(Boolean)
            .map((t) => Number(t.replace(',', '.').replace('−', '-')));
          if (list.length > 0 && list.every(Number.isFinite)) onChange(list);
          else e.target.value = text;
        }}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      />
      {value.length === 1 && range && (
        <input
          type="range"
          aria-label={`${label}, slider`}
          className="min-w-0 flex-1"
          min={range[0]}
          max={range[1]}
          step={(range[1] - range[0]) / 400}
          value={value[0]}
          onChange={(e) => onSlide(roundTo(Number(e.target.value), range[1] - range[0]))}
        />
      )}
    </Row>
  );
}
