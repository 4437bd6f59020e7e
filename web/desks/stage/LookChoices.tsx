import type { Layer } from '#core/scene/document.ts';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { NumberField } from './Chooser.tsx';
import { edit, useDesk, useRun } from './desk-store.ts';

type Look = Pick<Layer, 'opacity' | 'edges' | 'sides' | 'time'>;

/** Opacity, edges, sides and step of a line; nothing of it touches other lines unless asked. */
export function LookChoices({ layer }: { layer: Layer }) {
  const run = useRun();
  const flat = useDesk((s) => s.flat);
  const change = (c: Partial<Look>, key: string | null = null) =>
    edit({ type: 'layer.change', id: layer.id, change: c }, key);
  const { edges, time } = layer;
  return (
    <>
      <div className="flex items-center gap-3">
        <span className="w-16 text-soft">Opacity</span>
        <input
          type="range"
          aria-label="Opacity"
          min={0}
          max={1}
          step={0.01}
          className="min-w-0 flex-1"
          value={layer.opacity}
          onChange={(e) => change({ opacity: Number(e.target.value) }, `opacity-${layer.id}`)}
        />
        <span className="w-12 text-right whitespace-nowrap tabular-nums">
          {Math.round(layer.opacity * 100)} %
        </span>
        <ForAll what={{ opacity: layer.opacity }} />
      </div>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5">
        <Tick
          label="Mesh edges"
          checked={edges.shown}
          onChange={(shown) => change({ edges: { ...edges, shown } })}
        />
        {edges.shown && (
          <>
            <input
              type="color"
              aria-label="Colour of the edges"
              className="h-6 w-8"
              value={edges.colour}
              onChange={(e) => change({ edges: { ...edges, colour: e.target.value } }, `edges-${layer.id}`)}
            />
            <input
              type="range"
              aria-label="Opacity of the edges"
              className="w-16"
              min={0.05}
              max={1}
              step={0.05}
              value={edges.opacity}
              onChange={(e) =>
                change({ edges: { ...edges, opacity: Number(e.target.value) } }, `edges-${layer.id}`)
              }
            />
          </>
        )}
        <ForAll what={{ edges }} />
      </div>
      {!flat && (
        <Tick
          label="Inside only"
          checked={layer.sides === 'inside'}
          onChange={(on) => change({ sides: on ? 'inside' : 'both' })}
        />
      )}
      {run.steps.length > 1 && (
        <div className="flex items-center gap-2">
          <span className="w-16 text-soft">Shows</span>
          <select
            aria-label="Which step it shows"
            className="field h-7 min-w-0 flex-1"
            value={time.kind}
            onChange={(e) => {
              const kind = e.target.value as Layer['time']['kind'];
              change({
                time:
                  kind === 'now'
                    ? { kind }
                    : kind === 'fixed'
                      ? { kind, step: 0 }
                      : { kind: 'later', by: -1 },
              });
            }}
          >
            <option value="now">the step on show</option>
            <option value="fixed">always the same step</option>
            <option value="later">a step before or after it</option>
          </select>
          {time.kind === 'fixed' && (
            <NumberField
              label=""
              value={time.step}
              onChange={(v) =>
                change({
                  time: { kind: 'fixed', step: Math.max(0, Math.min(run.steps.length - 1, Math.round(v))) },
                })
              }
            />
          )}
          {time.kind === 'later' && (
            <NumberField
              label=""
              value={time.by}
              onChange={(v) => change({ time: { kind: 'later', by: Math.round(v) } })}
            />
          )}
        </div>
      )}
    </>
  );
}

/** One setting for every line, only when asked. */
function ForAll({ what }: { what: Partial<Look> }) {
  const several = useDesk((s) => s.history.scene.layers.length > 1);
  if (!several) return null;
  return (
    <button
      type="button"
      className="text-xs text-soft hover:text-accent"
      title="Set this for all lines"
      onClick={() => edit({ type: 'layers.change', change: what })}
    >
      for all
    </button>
  );
}
