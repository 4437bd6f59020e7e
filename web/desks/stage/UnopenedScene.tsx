import { useEffect, useState } from 'react';
import { ask } from '#engine/server-requests.ts';
import { TopBar } from '#web/desks/shared/TopBar.tsx';

/** A scene nothing can be made of: why, and where to go from here. */
export function UnopenedScene({ id, reason }: { id: string; reason: string }) {
  const [kept, setKept] = useState<number | null>(null);
  useEffect(() => {
    ask<{ states: unknown[] }>(`/api/scenes/${id}/states`).then(
      ({ states }) => setKept(states.length),
      () => undefined,
    );
  }, [id]);
  return (
    <div className="flex h-screen flex-col">
      <TopBar desk="stage" stageHref={`/scene/${id}`} title="Scene" />
      <main className="mx-auto max-w-xl px-6 py-16 font-book text-lg">
        <h1 className="mb-3 text-2xl font-medium">This scene cannot be opened</h1>
        <p className="mb-3">{reason}</p>
        <p className="mb-6 text-soft">
          It is left as it is{kept ? `, with ${kept} earlier states` : ''}. Its run and all other scenes are
          not touched: make a new scene of the run on Intake.
        </p>
        <a className="act" href="/">
          Go to Intake
        </a>
      </main>
    </div>
  );
}
