import type { Layer, Scale } from '#core/scene/document.ts';
import { settingOf } from '#core/scene/setting.ts';
import { settleScale } from '#core/scene/settle-scale.ts';
import { legend } from '#core/scene/things/legend.ts';
import { scale as scaleThing } from '#core/scene/things/scale.ts';
import type { AnyControl, Options } from './controls/control-props.ts';
import { Controls } from './controls/OneControl.tsx';
import { edit, useRun, useScene } from './desk-store.ts';
import { ownScale } from './layer-edits.ts';
import { Ramp } from './Ramp.tsx';

/** A colour scale: range, bands, map and legend. Every layer that shares it changes with it. */
export function ScaleChoices({ scale, layer }: { scale: Scale; layer: Layer }) {
  const scene = useScene();
  const run = useRun();
  const setting = settingOf(run, scene, layer);
  const sharing = scene.layers.filter((l) => l.colour.kind === 'field' && l.colour.scale === scale.id).length;
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
      <Controls
        controls={scaleThing.controls as AnyControl[]}
        options={scale as unknown as Options}
        setting={setting}
        layer={layer}
        scale={scale}
        set={(change, key = null) =>
          edit({ type: 'scale.change', id: scale.id, change }, key && `${key}-${scale.id}`)
        }
      />
      <section aria-label="Legend" className="flex flex-col gap-1.5">
        <p className="head">Legend</p>
        <Controls
          controls={(legend.controls as AnyControl[]).filter((c) => c.key !== 'x' && c.key !== 'y')}
          options={scale.legend as unknown as Options}
          setting={setting}
          set={(change, key = null) =>
            edit({ type: 'legend.change', id: scale.id, change }, key && `${key}-${scale.id}`)
          }
        />
      </section>
    </div>
  );
}

/** Scales of other lines with the same quantity, to share. */
function OtherScales({ scale, layer }: { scale: Scale; layer: Layer }) {
  const { scales, step } = useScene();
  const run = useRun();
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
          <Ramp scale={settleScale(s, run, step)} className="block h-3 w-14 rounded-sm" />
        </button>
      ))}
    </div>
  );
}
