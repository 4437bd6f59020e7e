import { CompiledScale } from '#core/colour/compiled-scale.ts';
import { colourMaps } from '#core/colour/maps.ts';
import { parseQuantity } from '#core/model/quantity.ts';
import { fieldByKey } from '#core/model/run.ts';
import type { Scale } from '#core/scene/document.ts';
import { settleScale } from '#core/scene/settle-scale.ts';
import { USUAL_MIDDLE } from '#core/scene/things/scale.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { NumberField } from '../Chooser.tsx';
import { useRun, useScene } from '../desk-store.ts';
import { Ramp } from '../Ramp.tsx';
import type { ControlProps } from './control-props.ts';

const ranges = [
  { kind: 'all-steps', label: 'all steps' },
  { kind: 'this-step', label: 'this step' },
  { kind: 'middle', label: 'without extremes' },
  { kind: 'fixed', label: 'fixed' },
] as const;

/** Where a colour scale begins and ends. */
export function RangeControl({ control, scale, set }: ControlProps<'range'>) {
  const scene = useScene();
  const run = useRun();
  if (!scale) return null;
  const { low, high } = settleScale(scale, run, scene.step);
  const unit = fieldByKey(run, parseQuantity(scale.quantity).field)?.unit;
  const put = (range: Scale['range']): void => set({ [control.key]: range });
  const fix = (a: number, b: number): void =>
    put({ kind: 'fixed', low: Math.min(a, b), high: Math.max(a, b) });
  return (
    <section aria-label={control.label}>
      <p className="head mb-1.5">{control.label}</p>
      <div className="mb-2 flex gap-1">
        {ranges.map(({ kind, label }) => (
          <Pill
            key={kind}
            on={scale.range.kind === kind}
            onClick={() => {
              if (kind === 'fixed') fix(Number(low.toPrecision(5)), Number(high.toPrecision(5)));
              else put(kind === 'middle' ? { kind, share: USUAL_MIDDLE } : { kind });
            }}
          >
            {label}
          </Pill>
        ))}
      </div>
      <div className="flex items-center gap-3">
        <NumberField label="from" value={low} onChange={(v) => fix(v, high)} />
        <NumberField label="to" value={high} onChange={(v) => fix(low, v)} unit={unit} />
      </div>
    </section>
  );
}

/** The colours themselves, each as the scale would show it. */
export function MapControl({ control, scale, set }: ControlProps<'map'>) {
  const scene = useScene();
  const run = useRun();
  if (!scale) return null;
  const settled = settleScale(scale, run, scene.step);
  return (
    <section aria-label={control.label}>
      <p className="head mb-1.5">{control.label}</p>
      <div className="grid grid-cols-2 gap-1">
        {colourMaps.map((map) => (
          <button
            key={map.id}
            type="button"
            title={map.note}
            aria-pressed={scale.map === map.id}
            onClick={() => set({ [control.key]: map.id })}
            className={`rounded-md border p-1 text-left text-xs ${scale.map === map.id ? 'border-accent bg-accent-wash font-semibold' : 'border-transparent hover:bg-sunk'}`}
          >
            <Ramp
              scale={CompiledScale.of({ ...settled.colours, map: map.id })}
              className="mb-1 block h-4 rounded-sm"
            />
            {map.name}
          </button>
        ))}
      </div>
    </section>
  );
}
