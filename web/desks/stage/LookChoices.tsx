import type { Layer } from '#core/scene/document.ts';
import { settingOf } from '#core/scene/setting.ts';
import { layerLook } from '#core/scene/things/layer-look.ts';
import type { AnyControl, Options } from './controls/control-props.ts';
import { OneControl } from './controls/OneControl.tsx';
import { edit, useDesk, useRun, useScene } from './desk-store.ts';

/** Everything of the looks of a line but whether it is shown, which the eye beside its sentence says. */
const controls = (layerLook.controls as AnyControl[]).filter((c) => c.key !== 'visible');

type Key = (typeof controls)[number]['key'];

/**
 * Opacity, edges, sides and step of a line; nothing of it touches other lines unless asked.
 *
 * @param wanted which of them; all without it
 */
export function LookChoices({ layer, wanted }: { layer: Layer; wanted?: (key: Key) => boolean }) {
  const run = useRun();
  const scene = useScene();
  const flat = useDesk((s) => s.flat);
  const setting = settingOf(run, scene, layer);
  const options = layer as unknown as Options;
  return controls
    .filter((c) => wanted?.(c.key) ?? true)
    .filter((c) => (!c.when || c.when(options, setting)) && !(flat && c.key === 'sides'))
    .map((control) => (
      <div key={control.key} className="flex items-center gap-3">
        <div className="min-w-0 flex-1">
          <OneControl
            control={control}
            options={options}
            setting={setting}
            layer={layer}
            at={['layers', layer.id]}
            set={(change, key = null) =>
              edit({ type: 'layer.change', id: layer.id, change }, key && `${key}-${layer.id}`)
            }
          />
        </div>
        <ForAll what={{ [control.key]: options[control.key] }} />
      </div>
    ));
}

/** One setting for every line, only when asked. */
function ForAll({
  what,
}: {
  what: Partial<Pick<Layer, 'finish' | 'opacity' | 'edges' | 'lineWidth' | 'sides' | 'time' | 'wipe'>>;
}) {
  const several = useDesk((s) => s.history.scene.layers.length > 1);
  if (!several) return null;
  return (
    <button
      type="button"
      className="shrink-0 text-xs text-soft hover:text-accent"
      title="Set this for all lines"
      onClick={() => edit({ type: 'layers.change', change: what })}
    >
      for all
    </button>
  );
}
