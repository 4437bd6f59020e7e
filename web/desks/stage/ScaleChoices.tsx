import { colourMaps } from '#core/colour/maps.ts';
import { parseQuantity } from '#core/model/quantity.ts';
import { fieldByKey } from '#core/model/run.ts';
import type { Layer, Legend, Scale } from '#core/scene/document.ts';
import { settleScale } from '#core/scene/settle-scale.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { NumberField } from './Chooser.tsx';
import { edit, useRun, useScene } from './desk-store.ts';
import { ownScale } from './layer-edits.ts';
import { Ramp } from './Ramp.tsx';

const ranges = [
  { kind: 'all-steps', label: 'all steps' },
  { kind: 'this-step', label: 'this step' },
  { kind: 'fixed', label: 'fixed' },
] as const;

/** A colour scale: range, bands, map and legend. Every layer that shares it changes with it. */
export function ScaleChoices({ scale, layer }: { scale: Scale; layer: Layer }) {
  const scene = useScene();
  const run = useRun();
  const settled = settleScale(scale, run, scene.step);
  const field = fieldByKey(run, parseQuantity(scale.quantity).field);
  const sharing = scene.layers.filter((l) => l.colour.kind === 'field' && l.colour.scale === scale.id).length;
  const change = (c: Partial<Omit<Scale, 'id' | 'legend'>>, key: string | null = null) =>
    edit({ type: 'scale.change', id: scale.id, change: c }, key);
  const legend = (c: Partial<Legend>, key: string | null = null) =>
    edit({ type: 'legend.change', id: scale.id, change: c }, key);
  const fix = (low: number, high: number) =>
    change({ range: { kind: 'fixed', low: Math.min(low, high), high: Math.max(low, high) } });
  return (
    <div className="flex flex-col gap-3">
      {sharing > 1 && (
        <p className="flex items-baseline justify-between text-soft">
          Shared by {sharing} lines.
          <button
            type="button"
            className="text-accent hover:underline"
            onClick={() => ownScale(layer, scale)}
          >
            Give this line its own
          </button>
        </p>
      )}
      <OtherScales scale={scale} layer={layer} />
      <section aria-label="Range">
        <p className="head mb-1.5">Range</p>
        <div className="mb-2 flex gap-1">
          {ranges.map(({ kind, label }) => (
            <Pill
              key={kind}
              on={scale.range.kind === kind}
              onClick={() =>
                kind === 'fixed'
                  ? fix(Number(settled.low.toPrecision(5)), Number(settled.high.toPrecision(5)))
                  : change({ range: { kind } })
              }
            >
              {label}
            </Pill>
          ))}
        </div>
        <div className="flex items-center gap-3">
          <NumberField label="from" value={settled.low} onChange={(v) => fix(v, settled.high)} />
          <NumberField
            label="to"
            value={settled.high}
            onChange={(v) => fix(settled.low, v)}
            unit={field?.unit}
          />
        </div>
      </section>
      <section aria-label="Bands">
        <p className="head mb-1.5">Colours run</p>
        <div className="flex items-center gap-1">
          <Pill on={scale.bands === null} onClick={() => change({ bands: null })}>
            smoothly
          </Pill>
          <Pill on={scale.bands !== null} onClick={() => change({ bands: scale.bands ?? 10 })}>
            in bands
          </Pill>
          {scale.bands !== null && (
            <input
              type="number"
              aria-label="Number of bands"
              className="field ml-1 w-16"
              min={1}
              max={64}
              value={scale.bands}
              onChange={(e) =>
                change(
                  { bands: Math.min(64, Math.max(1, Math.round(Number(e.target.value)) || 1)) },
                  `bands-${scale.id}`,
                )
              }
            />
          )}
          <span className="ml-auto">
            <Tick label="Reverse" checked={scale.reversed} onChange={(reversed) => change({ reversed })} />
          </span>
        </div>
      </section>
      <section aria-label="Colours">
        <p className="head mb-1.5">Colours</p>
        <div className="grid grid-cols-2 gap-1">
          {colourMaps.map((map) => (
            <button
              key={map.id}
              type="button"
              title={map.note}
              aria-pressed={scale.map === map.id}
              onClick={() => change({ map: map.id })}
              className={`rounded-md border p-1 text-left text-xs ${scale.map === map.id ? 'border-accent bg-accent-wash font-semibold' : 'border-transparent hover:bg-sunk'}`}
            >
              <Ramp
                scale={{ map: map.id, reversed: scale.reversed, bands: scale.bands }}
                className="mb-1 block h-4 rounded-sm"
              />
              {map.name}
            </button>
          ))}
        </div>
      </section>
      <section aria-label="Legend" className="flex flex-col gap-1.5">
        <p className="head">Legend</p>
        <div className="flex gap-5">
          <Tick label="Shown" checked={scale.legend.visible} onChange={(visible) => legend({ visible })} />
          <Tick
            label="Lying"
            checked={!scale.legend.upright}
            onChange={(lying) =>
              legend(lying ? { upright: false, x: 0.5, y: 0.08 } : { upright: true, x: 0.925, y: 0.5 })
            }
          />
        </div>
        <input
          className="field"
          aria-label="Title of the legend"
          placeholder="Title: name of the quantity"
          value={scale.legend.title ?? ''}
          onChange={(e) => legend({ title: e.target.value || null }, `title-${scale.id}`)}
        />
      </section>
    </div>
  );
}

/** Scales of other lines with the same quantity, to share. */
function OtherScales({ scale, layer }: { scale: Scale; layer: Layer }) {
  const { scales } = useScene();
  const others = scales.filter((s) => s.id !== scale.id && s.quantity === scale.quantity);
  const { colour } = layer;
  if (others.length === 0 || colour.kind !== 'field') return null;
  return (
    <div className="flex items-center gap-2">
      <span className="text-soft">Share instead:</span>
      {others.map((s) => (
        <button
          key={s.id}
          type="button"
          className="rounded-md border border-rule p-1 hover:border-soft"
          aria-label={`Share the scale ${s.name}`}
          onClick={() =>
            edit({ type: 'layer.change', id: layer.id, change: { colour: { ...colour, scale: s.id } } })
          }
        >
          <Ramp scale={s} className="block h-3 w-14 rounded-sm" />
        </button>
      ))}
    </div>
  );
}
