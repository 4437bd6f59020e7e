import { Info, Trash2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import { ask } from '#engine/server-requests.ts';
import { drawMissing } from '#web/desks/shared/first-thumbnails.ts';
import { useRemoving } from '#web/desks/shared/removing.tsx';
import { useRoving } from '#web/desks/shared/roving.ts';
import type { SavedScene } from '#web/server/saved-scenes.ts';

/** How often the list is asked for anew, in milliseconds: other windows and the first start add to it. */
const LOOK_AGAIN = 5000;

/** The scenes that are there already, each with its picture; one that nobody opened yet is drawn here. */
export function SceneCards({ saved, busy }: { saved: SavedScene[]; busy: boolean }) {
  const [scenes, setScenes] = useState(saved);
  const list = useRoving<HTMLUListElement>();

  useEffect(() => {
    const timer = setInterval(() => {
      if (!document.hidden)
        ask<SavedScene[]>('/api/scenes')
          .then((now) => setScenes((before) => (sameList(before, now) ? before : now)))
          // A server that is away for a moment is no news here.
          .catch(() => undefined);
    }, LOOK_AGAIN);
    return () => clearInterval(timer);
  }, []);

  const missing = scenes
    .filter((s) => s.thumbnail === null)
    .map((s) => s.id)
    .join();
  useEffect(() => {
    if (!missing || busy) return;
    const abort = new AbortController();
    const open = scenes.filter((s) => missing.split(',').includes(s.id));
    void drawMissing(open, abort.signal, (id, thumbnail) =>
      setScenes((all) => all.map((s) => (s.id === id ? { ...s, thumbnail } : s))),
    );
    return () => abort.abort();
  }, [missing, busy]);

  const { remove, notice } = useRemoving(({ kind, id }, removed) => {
    if (removed) setScenes((all) => all.filter((s) => s[kind === 'run' ? 'run' : 'id'] !== id));
    else
      ask<SavedScene[]>('/api/scenes')
        .then(setScenes)
        .catch(() => undefined);
  });
  /** With its last scene a run goes as well. */
  const removeScene = (scene: SavedScene) =>
    scenes.filter((s) => s.run === scene.run).length === 1
      ? remove({ kind: 'run', id: scene.run, name: scene.name })
      : remove({ kind: 'scene', id: scene.id, name: scene.name });

  if (scenes.length === 0) return notice;
  return (
    <section id="scenes" aria-label="Scenes" className="mt-9">
      <h2 className="head mb-3">Scenes</h2>
      {notice}
      <ul ref={list} className="grid grid-cols-3 gap-5">
        {scenes.map((scene) => (
          <SceneCard key={scene.id} scene={scene} onRemove={() => removeScene(scene)} />
        ))}
      </ul>
    </section>
  );
}

const sameList = (a: SavedScene[], b: SavedScene[]): boolean => JSON.stringify(a) === JSON.stringify(b);

function SceneCard({ scene, onRemove }: { scene: SavedScene; onRemove(): void }) {
  const when = new Date(scene.changed).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
  return (
    <li className="group relative overflow-hidden rounded-xl border border-rule bg-sheet transition hover:border-soft">
      <a href={`/scene/${scene.id}`} className="block">
        <div className="aspect-[4/3] bg-sunk">
          {scene.thumbnail ? (
            <img src={scene.thumbnail} alt={scene.name} className="size-full object-contain" />
          ) : (
            <div className="flex size-full items-center justify-center text-soft">Drawing its picture …</div>
          )}
        </div>
        <div className="px-4 py-3">
          <p className="truncate font-medium">{scene.name}</p>
          <p className="truncate text-soft">
            {scene.runName === scene.name ? '' : `${scene.runName}, `}
            {when}
          </p>
        </div>
      </a>
      <a
        className="mark absolute right-10 bottom-3 opacity-0 group-hover:opacity-100 focus-visible:opacity-100"
        href={`/run/${scene.run}`}
        aria-label={`What ${scene.runName} holds`}
        title="What the run holds, and its files"
      >
        <Info size={16} />
      </a>
      <button
        type="button"
        className="mark absolute right-2 bottom-3 opacity-0 group-hover:opacity-100 focus-visible:opacity-100"
        onClick={onRemove}
        aria-label={`Delete ${scene.name}`}
        title="Delete"
      >
        <Trash2 size={16} />
      </button>
    </li>
  );
}
