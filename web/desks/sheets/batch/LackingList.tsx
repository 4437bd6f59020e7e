import type { LackingInRuns } from '#web/server/batch-preview.ts';
import { editSet, useRunSet } from '../set-store.ts';

const kinds = { field: 'fields', part: 'parts' } as const;

/** What shots ask for that runs lack, each with what is meant by it there; said once, it holds for all of them. */
export function LackingList({ lacking }: { lacking: readonly LackingInRuns[] }) {
  const { rules } = useRunSet();
  if (lacking.length === 0) return null;
  return (
    <section aria-label="What runs lack" className="rounded-lg border border-rule bg-accent-wash/50 p-3">
      <h3 className="head mb-1.5">Not in all of these runs</h3>
      <ul className="flex flex-col gap-2.5">
        {lacking.map((one) => {
          const of = kinds[one.kind];
          const meant = Object.hasOwn(rules[of], one.asked) ? rules[of][one.asked] : null;
          const likely = one.offered.find((o) => o.value === one.likely);
          return (
            <li key={`${one.kind} ${one.asked}`} className="text-sm">
              <p>
                {saidRuns(one.runs)} no {one.kind} “{one.name}”.
              </p>
              <div className="mt-1 flex flex-wrap items-center gap-2">
                <label className="flex min-w-0 items-center gap-2">
                  <span className="text-soft">Take</span>
                  <select
                    className="field min-w-0 max-w-44"
                    aria-label={`Instead of ${one.name}`}
                    value={meant ?? ''}
                    onChange={(e) =>
                      editSet({ type: 'set.rule', of, asked: one.asked, meant: e.target.value || null })
                    }
                  >
                    <option value="">nothing: leave it out</option>
                    {one.offered.map(({ value, name }) => (
                      <option key={value} value={value}>
                        {name}
                      </option>
                    ))}
                  </select>
                </label>
                {likely && meant === null && (
                  <button
                    type="button"
                    className="quiet h-7 px-2.5 text-sm"
                    onClick={() => editSet({ type: 'set.rule', of, asked: one.asked, meant: likely.value })}
                  >
                    {likely.name} is meant
                  </button>
                )}
              </div>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

const saidRuns = (runs: readonly string[]): string =>
  runs.length === 1
    ? `${runs[0]} has`
    : runs.length <= 3
      ? `${runs.slice(0, -1).join(', ')} and ${runs[runs.length - 1]} have`
      : `${runs[0]} and ${runs.length - 1} others have`;
