import type { Layer } from '#core/scene/document.ts';
import { layerLabel } from '#core/scene/layer-chain.ts';
import { edit, useRun, useScene } from './desk-store.ts';

/** Which parts of the run a layer shows. */
export function PartChoices({ layer }: { layer: Layer }) {
  const run = useRun();
  const scene = useScene();
  const sets = [...scene.sets, ...run.sets];
  // A line cannot follow one that follows it.
  const follows = (l: Layer): boolean => {
    for (let at: Layer | undefined = l; at; at = scene.layers.find((o) => o.id === at?.from)) {
      if (at.id === layer.id) return true;
      if (at.from === null) return false;
    }
    return false;
  };
  const others = scene.layers.filter((l) => !follows(l));
  const chosen = new Set(layer.parts ?? run.parts.map((p) => p.name));
  const set = (parts: string[] | null) =>
    edit({ type: 'layer.change', id: layer.id, change: { parts, from: null } });
  return (
    <fieldset>
      <legend className="head mb-1.5">Parts</legend>
      {run.parts.map((part) => (
        <div
          key={part.name}
          className="group/part flex items-center gap-2 rounded-md px-1 py-0.5 hover:bg-sunk"
        >
          <label className="flex min-w-0 flex-1 items-center gap-2">
            <input
              type="checkbox"
              className="size-4 accent-accent"
              checked={chosen.has(part.name)}
              onChange={(e) => {
                const next = new Set(chosen);
                if (e.target.checked) next.add(part.name);
                else next.delete(part.name);
                set(run.parts.map((p) => p.name).filter((n) => next.has(n)));
              }}
            />
            <span className="truncate">{part.name}</span>
          </label>
          {run.parts.length > 1 && (
            <button
              type="button"
              className="px-1 text-xs text-soft hover:text-accent"
              onClick={() => set([part.name])}
            >
              only
            </button>
          )}
        </div>
      ))}
      {run.parts.length > 1 && layer.parts !== null && (
        <button type="button" className="mt-1.5 px-1 text-accent hover:underline" onClick={() => set(null)}>
          Everything
        </button>
      )}
      {sets.length > 0 && (
        <label className="mt-2 block">
          <span className="head block">Only the cells of a part set</span>
          <select
            className="field mt-1 w-full"
            value={layer.set ?? ''}
            onChange={(e) =>
              edit({
                type: 'layer.change',
                id: layer.id,
                change: { set: e.target.value || null, from: null },
              })
            }
          >
            <option value="">all cells</option>
            {sets.map((s) => (
              <option key={s.name}>{s.name}</option>
            ))}
          </select>
        </label>
      )}
      {others.length > 0 && (
        <label className="mt-2 block">
          <span className="head block">Or what another line shows</span>
          <select
            className="field mt-1 w-full"
            value={layer.from ?? ''}
            onChange={(e) =>
              edit({ type: 'layer.change', id: layer.id, change: { from: e.target.value || null } })
            }
          >
            <option value="">no other line</option>
            {others.map((l) => (
              <option key={l.id} value={l.id}>
                {layerLabel(l, scene)}
              </option>
            ))}
          </select>
        </label>
      )}
    </fieldset>
  );
}
