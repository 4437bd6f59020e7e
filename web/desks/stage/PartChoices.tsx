import type { Layer } from '#core/scene/document.ts';
import { edit, useRun } from './desk-store.ts';

/** Which parts of the run a layer shows. */
export function PartChoices({ layer }: { layer: Layer }) {
  const run = useRun();
  const chosen = new Set(layer.parts ?? run.parts.map((p) => p.name));
  const set = (parts: string[] | null) => edit({ type: 'layer.change', id: layer.id, change: { parts } });
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
      {run.sets.length > 0 && (
        <label className="mt-2 block">
          <span className="head block">Only the cells of a part set</span>
          <select
            className="field mt-1 w-full"
            value={layer.set ?? ''}
            onChange={(e) =>
              edit({ type: 'layer.change', id: layer.id, change: { set: e.target.value || null } })
            }
          >
            <option value="">all cells</option>
            {run.sets.map((s) => (
              <option key={s.name}>{s.name}</option>
            ))}
          </select>
        </label>
      )}
    </fieldset>
  );
}
