import { Columns2 } from 'lucide-react';
import { MOST_PANES } from '#core/beside/side-by-side.ts';
import { ask } from '#engine/server-requests.ts';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { useWork } from '#web/desks/shared/work-state.ts';
import type { ListedShot } from '#web/server/listed-shots.ts';
import { useRunSet } from './set-store.ts';

/** Opens the marked runs side by side, in the shot of the contact sheet or what was last looked at of one of them. */
export function LaySideBySide({ set, shots }: { set: string; shots: readonly ListedShot[] }) {
  const { name, marked, runs, sheet } = useRunSet();
  const { work, problem, run } = useWork();
  const chosen = runs.filter((id) => marked.includes(id));
  const many = chosen.length > MOST_PANES;
  const open = () =>
    run('Laying them side by side', async () => {
      const shot = shots.find((s) => s.id === sheet.shot)?.id ?? shots[0]?.id ?? null;
      const of = { kind: 'runs', runs: chosen, shot, set };
      const { id } = await ask<{ id: string }>('/api/beside', {
        method: 'POST',
        json: { name: `${chosen.length} of ${name}`, of },
      });
      location.href = `/sheets/beside/${id}`;
    });
  return (
    <section aria-label="Side by side" className="px-5 pb-4">
      <button
        type="button"
        className="quiet"
        disabled={chosen.length < 2 || many || work !== null}
        title={
          chosen.length < 2
            ? 'Mark two to nine runs first'
            : many
              ? `${MOST_PANES} at most: ${chosen.length} are marked`
              : 'The marked runs beside each other, turned together'
        }
        onClick={open}
      >
        <Columns2 size={15} />
        {chosen.length < 2 ? 'Side by side' : `${chosen.length} side by side`}
      </button>
      {chosen.length < 2 && <p className="mt-1 text-xs text-soft">Mark two to nine runs for that.</p>}
      {many && <p className="mt-1 text-xs text-warn">Nine at most: {chosen.length} are marked.</p>}
      {problem && <ProblemNote problem={problem} />}
    </section>
  );
}
