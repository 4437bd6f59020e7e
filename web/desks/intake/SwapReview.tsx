import { useState } from 'react';
import type { Renames } from '#core/scene/rename-in-scene.ts';
import { ask, problemFrom } from '#engine/server-requests.ts';
import { likelyNames, NamesMeant } from '#web/desks/shared/NamesMeant.tsx';
import type { SwapProposal } from '#web/server/swap-run.ts';

interface Props {
  name: string;
  proposal: SwapProposal;
  onLeave(): void;
}

/** Puts what was read in its place, and shows the run with it. */
export async function swapIn({ run, content, scene }: SwapProposal, renames: Renames): Promise<void> {
  await ask(`/api/runs/${run}/swap`, { method: 'POST', json: { content, renames } });
  location.href = scene ? `/scene/${scene}` : `/run/${run}`;
}

/** What will not match, before anything is changed: what is meant by each name is settled once, for all lines and shots. */
export function SwapReview({ name, proposal, onLeave }: Props) {
  const { lacking, mismatches } = proposal;
  const [names, setNames] = useState(() => likelyNames(lacking));
  const [trouble, setTrouble] = useState<string | null>(null);
  const swap = () =>
    swapIn(proposal, names).catch((error) => {
      const { reason, remedy } = problemFrom(error);
      setTrouble(`The files were not swapped: ${reason}. ${remedy}`);
    });
  return (
    <section
      aria-label="What will not match"
      className="mt-4 rounded-xl border border-rule bg-sheet px-5 py-4"
    >
      <h2 className="font-book text-[19px]">Before the files of {name} are swapped</h2>
      {lacking.length > 0 && (
        <>
          <p className="mt-1 text-soft">
            Its scenes and shots ask for what the new files call differently or do not have.
          </p>
          <div className="mt-3">
            <NamesMeant lacking={lacking} names={names} onNames={setNames} />
          </div>
        </>
      )}
      {mismatches.length > 0 && (
        <details className="mt-3" open={lacking.length === 0}>
          <summary className="cursor-pointer text-soft">
            {mismatches.length === 1 ? 'One place' : `${mismatches.length} places`} in its scenes and shots
          </summary>
          <ul className="mt-1 max-h-48 list-disc overflow-y-auto pl-5">
            {mismatches.map((m) => (
              <li key={m.scene + m.text}>
                {m.scene}: {m.text}
              </li>
            ))}
          </ul>
        </details>
      )}
      {trouble && <p className="mt-3 text-warn">{trouble}</p>}
      <div className="mt-4 flex items-center gap-2">
        <button type="button" className="act" onClick={swap}>
          Swap the files
        </button>
        <button type="button" className="quiet" onClick={onLeave}>
          Leave everything as it is
        </button>
        <span className="text-soft">It can be undone for a day.</span>
      </div>
    </section>
  );
}
