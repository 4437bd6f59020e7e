import { Tabs } from 'radix-ui';
import type { Layer, Scale } from '#core/scene/document.ts';
import { settingOf } from '#core/scene/setting.ts';
import { scalesOfLayer } from '#core/scene/shown-scales.ts';
import { legend } from '#core/scene/things/legend.ts';
import { scale as scaleThing } from '#core/scene/things/scale.ts';
import type { AnyControl, Options } from '../controls/control-props.ts';
import { Controls } from '../controls/OneControl.tsx';
import { edit, useRun, useScene, useSettled } from '../desk-store.ts';
import { ownScale } from '../layer-edits.ts';
import { Ramp } from './Ramp.tsx';

/** Which settings stand together; what is in none of them stands with the last. */
const pages: { name: string; keys: string[] }[] = [
  { name: 'Colours', keys: ['map'] },
  { name: 'Range', keys: ['range', 'spacing'] },
  { name: 'Bands', keys: ['bands', 'lines'] },
  { name: 'Beyond', keys: ['below', 'opacity'] },
  { name: 'Numbers', keys: ['unit', 'categories'] },
];
const LEGEND = 'Legend';

/** A colour scale: range, bands, map and legend. Every layer that shares it changes with it. */
export function ScaleChoices({ scale, layer }: { scale: Scale; layer: Layer }) {
  const scene = useScene();
  const run = useRun();
  const setting = settingOf(run, scene, layer);
  const sharing = scene.layers.filter((l) => scalesOfLayer(l).includes(scale.id)).length;
  const named = new Set(pages.flatMap((p) => p.keys));
  const controls = scaleThing.controls as AnyControl[];
  const of = (keys: string[], last: boolean) =>
    controls.filter((c) => keys.includes(c.key) || (last && !named.has(c.key)));
  return (
    <div className="flex flex-col gap-3">
      <input
        key={scale.name}
        aria-label="Name of the colour scale"
        title="Name of the colour scale"
        className="-mx-1 -mb-1.5 rounded-md border border-transparent px-1 font-semibold hover:border-rule focus:border-rule"
        defaultValue={scale.name}
        onBlur={(e) => {
          const name = e.target.value.trim();
          if (name && name !== scale.name) edit({ type: 'scale.change', id: scale.id, change: { name } });
          else e.target.value = scale.name;
        }}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      />
      <Sharing scale={scale} layer={layer} sharing={sharing} />
      <Tabs.Root defaultValue={pages[0].name}>
        <Tabs.List aria-label="The colour scale" className="mb-3 flex gap-3.5 border-b border-rule text-sm">
          {[...pages.map((p) => p.name), LEGEND].map((name) => (
            <Tabs.Trigger
              key={name}
              value={name}
              className="-mb-px border-b-2 border-transparent pb-1 text-soft hover:text-ink data-[state=active]:border-accent data-[state=active]:font-semibold data-[state=active]:text-ink"
            >
              {name}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        {pages.map(({ name, keys }, i) => (
          <Tabs.Content key={name} value={name}>
            <Controls
              controls={of(keys, i === pages.length - 1)}
              options={scale as unknown as Options}
              setting={setting}
              layer={layer}
              scale={scale}
              at={['scales', scale.id]}
              set={(change, key = null) =>
                edit({ type: 'scale.change', id: scale.id, change }, key && `${key}-${scale.id}`)
              }
            />
          </Tabs.Content>
        ))}
        <Tabs.Content value={LEGEND}>
          <Controls
            controls={(legend.controls as AnyControl[]).filter((c) => c.key !== 'x' && c.key !== 'y')}
            options={scale.legend as unknown as Options}
            setting={setting}
            at={['scales', scale.id, 'legend']}
            set={(change, key = null) =>
              edit({ type: 'legend.change', id: scale.id, change }, key && `${key}-${scale.id}`)
            }
          />
        </Tabs.Content>
      </Tabs.Root>
    </div>
  );
}

/** Who uses the scale, and other scales to use instead: of any quantity. */
function Sharing({ scale, layer, sharing }: { scale: Scale; layer: Layer; sharing: number }) {
  const { scales } = useScene();
  const { colour } = layer;
  const others = scales.filter((s) => s.id !== scale.id);
  if (colour.kind !== 'field' || (sharing < 2 && others.length === 0)) return null;
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-sm text-soft">
      {sharing > 1 && (
        <span>
          Shared by {sharing} lines.{' '}
          <button
            type="button"
            className="text-accent hover:underline"
            onClick={() => ownScale(layer, scale)}
          >
            Give this line its own
          </button>
        </span>
      )}
      {others.length > 0 && (
        <span className="flex items-center gap-1.5">
          Borrow:
          {others.map((s) => (
            <button
              key={s.id}
              type="button"
              className="rounded-md border border-rule p-1 hover:border-soft"
              aria-label={`Share the scale ${s.name}`}
              title={s.name}
              onClick={() =>
                edit({ type: 'layer.change', id: layer.id, change: { colour: { ...colour, scale: s.id } } })
              }
            >
              <Strip scale={s} />
            </button>
          ))}
        </span>
      )}
    </div>
  );
}

function Strip({ scale }: { scale: Scale }) {
  return <Ramp scale={useSettled(scale)} className="block h-3 w-12 rounded-sm" />;
}
