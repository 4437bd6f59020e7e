import { Trash2 } from 'lucide-react';
import { useCallback, useEffect, useState } from 'react';
import type { FileProblem } from '#core/model/read-error.ts';
import { ask, problemFrom } from '#engine/server-requests.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { setRemoved } from '#web/desks/shared/removing.tsx';
import { KeepUnderName } from '#web/desks/stage/KeepUnderName.tsx';
import type { KeptStyle } from '#web/server/styles.ts';

interface Props<T> {
  kind: 'template' | 'brand';
  /** What is kept, in words. */
  what: string;
  /** Whether one is what the report has now. */
  isOn(one: T): boolean;
  onChoose(one: T): void;
  /** What the report has now, under a name. */
  named(name: string): T;
}

/** What was kept of a kind for other reports: chosen, taken away, and kept under a name. */
export function KeptOfKind<T extends { name: string }>({ kind, what, isOn, onChoose, named }: Props<T>) {
  const [kept, setKept] = useState<readonly KeptStyle<T>[]>([]);
  const [problem, setProblem] = useState<FileProblem | null>(null);
  const act = useCallback(
    async (work: () => Promise<unknown>) => {
      try {
        setProblem(null);
        await work();
        setKept(await ask<KeptStyle<T>[]>(`/api/styles/${kind}`));
      } catch (error) {
        setProblem(problemFrom(error));
      }
    },
    [kind],
  );
  useEffect(() => void act(async () => undefined), [act]);
  return (
    <div className="flex flex-col gap-2">
      {kept.length > 0 && (
        <ul aria-label={`Own ${what}s`} className="flex flex-wrap gap-1.5">
          {kept.map((one) => (
            <li key={one.id} className="flex items-center">
              <Pill on={isOn(one.document)} onClick={() => onChoose(one.document)}>
                {one.name}
              </Pill>
              <button
                type="button"
                className="mark size-6"
                aria-label={`Take the ${what} ${one.name} away`}
                onClick={() => void act(() => setRemoved({ kind: 'style', ...one }, true))}
              >
                <Trash2 size={13} />
              </button>
            </li>
          ))}
        </ul>
      )}
      <KeepUnderName
        label={`Name of the ${what}`}
        hint={`Keep this ${what} as …`}
        says={(name) => (kept.some((k) => k.name === name) ? 'Replace' : 'Keep')}
        onKeep={(name) => void act(() => ask(`/api/styles/${kind}`, { method: 'POST', json: named(name) }))}
      />
      {problem && <ProblemNote problem={problem} />}
    </div>
  );
}
