import { useState } from 'react';
import { ask, problemFrom } from '#engine/server-requests.ts';
import type { SwapProposal } from '#web/server/swap-run.ts';

interface Props {
  name: string;
  proposal: SwapProposal;
  onLeave(): void;
}

/** Puts what was read in its place, and shows the run with it. */
export async function swapIn(
  { run, content, scene }: SwapProposal,
  renames: Record<'fields' | 'parts', Record<string, string>>,
): Promise<void> {
  await ask(`/api/runs/${run}/swap`, { method: 'POST', json: { content, renames } });
  location.href = scene ? `/scene/${scene}` : `/run/${run}`;
}

/** What will not match, before anything is changed: what is meant by each name is settled once, for all lines and shots. */
export function SwapReview({ name, proposal, onLeave }: Props) {
  const { lacking, mismatches } = proposal;
  const [chosen, setChosen] = useState<Record<string, string>>(() =>
    Object.fromEntries(lacking.map((l) => [`${l.kind} ${l.asked}`, l.likely ?? ''])),
  );
  const [trouble, setTrouble] = useState<string | null>(null);
  const renamesOf = (kind: 'field' | 'part') =>
    Object.fromEntries(
      lacking
        .filter((l) => l.kind === kind && chosen[`${kind} ${l.asked}`])
        .map((l) => [l.asked, chosen[`${kind} ${l.asked}`]]),
    );
  const swap = () =>
    swapIn(proposal, { fields: renamesOf('field'), parts: renamesOf('part') }).catch((error) => {
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
          <ul className="mt-3 flex flex-col gap-2">
            {lacking.map((l) => (
              <li key={`${l.kind} ${l.asked}`} className="flex items-center gap-3">
                <span className="w-56 truncate text-right">
                  <span className="text-soft">{l.kind === 'field' ? 'quantity ' : 'part '}</span>
                  <span className="font-medium">{l.name}</span>
                </span>
                <span className="text-soft">is now</span>
                <select
                  aria-label={`${l.name} is now`}
                  className="field w-56"
                  value={chosen[`${l.kind} ${l.asked}`]}
                  onChange={(e) => setChosen({ ...chosen, [`${l.kind} ${l.asked}`]: e.target.value })}
                >
                  <option value="">not there any more</option>
                  {l.offered.map((o) => (
                    <option key={o.value} value={o.value}>
                      {o.name}
                    </option>
                  ))}
                </select>
              </li>
            ))}
          </ul>
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
