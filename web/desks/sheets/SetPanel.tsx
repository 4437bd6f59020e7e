import { sayList } from '#core/language/sentence.ts';
import type { RunSet } from '#core/sets/run-set.ts';
import type { RunTable } from '#core/sets/run-table.ts';
import type { RowGroup } from '#core/sets/shown-rows.ts';
import type { DocumentSaver } from '#web/desks/shared/document-saver.ts';
import { Chooser } from '#web/desks/stage/Chooser.tsx';
import { MeasuredOutputs } from './MeasuredOutputs.tsx';
import { PatternField } from './PatternField.tsx';
import { RunChoices } from './RunChoices.tsx';
import { editSet, useRunSet, useSet } from './set-store.ts';
import { WatchFolder } from './WatchFolder.tsx';

interface Props {
  /** Id of the set. */
  id: string;
  saver: DocumentSaver<RunSet>;
  table: RunTable;
  groups: readonly RowGroup[];
}

/** More findings than this stay folded. */
const SHOWN = 4;

/** What a set is, said in sentences whose words change it. */
export function SetPanel({ id, saver, table, groups }: Props) {
  const set = useRunSet();
  const known = useSet((s) => s.runs);
  const { view, marked } = set;
  const shown = groups.reduce((n, g) => n + g.rows.length, 0);
  const nameOf = (key: string | null): string | null =>
    table.columns.find((c) => c.key === key)?.name ?? null;
  const inputs = table.columns.filter((c) => c.role === 'input');
  const outputs = table.columns.filter((c) => c.role === 'output');
  const filtered = view.filters.flatMap((f) => nameOf(f.key) ?? []);
  const change = (to: Partial<typeof view>): void => editSet({ type: 'set.view', change: to });
  return (
    <div className="flex flex-col gap-4 p-5">
      <p className="font-book text-[17px] leading-relaxed">
        <Chooser
          word={table.rows.length === 1 ? '1 run' : `${table.rows.length} runs`}
          label="Which runs belong to the set"
          wide
        >
          <RunChoices
            runs={known}
            chosen={new Set(set.runs)}
            onChoose={(runs, on) => editSet({ type: on ? 'set.runs.add' : 'set.runs.remove', runs })}
          />
        </Chooser>
        {inputs.length > 0 && <>, by {sayList(inputs.map((c) => c.name))}</>}
        {outputs.length > 0 && <>, with {sayList(outputs.map((c) => c.name))}</>}. Their names{' '}
        <Chooser
          word={set.pattern === '' ? 'say nothing more' : `say ${set.pattern}`}
          label="What the names of the runs say"
          wide
        >
          <PatternField names={table.rows.map((r) => r.name)} />
        </Chooser>
        .
      </p>
      <p>
        {shown === table.rows.length ? 'All are shown' : `${shown} of ${table.rows.length} are shown`}
        {view.sort && <>, sorted by {nameOf(view.sort.key)}</>}
        {view.group && <>, in groups by {nameOf(view.group)}</>}
        {filtered.length > 0 && (
          <>
            , only some of {sayList(filtered)}{' '}
            <button type="button" className="word" onClick={() => change({ filters: [] })}>
              show all
            </button>
          </>
        )}
        {view.hidden.length > 0 && (
          <>
            , {view.hidden.length} hidden{' '}
            <button type="button" className="word" onClick={() => change({ hidden: [] })}>
              bring back
            </button>
          </>
        )}
        .
      </p>
      <MeasuredOutputs />
      <WatchFolder id={id} saver={saver} />
      {marked.length > 0 && (
        <p>
          {marked.length} marked:{' '}
          <button
            type="button"
            className="word"
            onClick={() => change({ hidden: [...new Set([...view.hidden, ...marked])] })}
          >
            hide them
          </button>
          ,{' '}
          <button
            type="button"
            className="word"
            onClick={() => change({ hidden: set.runs.filter((id) => !marked.includes(id)) })}
          >
            hide all others
          </button>
          ,{' '}
          <button
            type="button"
            className="word"
            onClick={() => editSet({ type: 'set.runs.remove', runs: marked })}
          >
            take them out
          </button>{' '}
          or{' '}
          <button
            type="button"
            className="word"
            onClick={() => editSet({ type: 'set.mark', runs: marked, on: false })}
          >
            clear the marks
          </button>
          .
        </p>
      )}
      <Findings findings={table.findings} />
    </div>
  );
}

/** What is odd about the table; it is shown as it is all the same. */
function Findings({ findings }: { findings: readonly string[] }) {
  if (findings.length === 0) return null;
  const line = (text: string) => (
    <li key={text} className="break-words">
      {text}
    </li>
  );
  return (
    <section aria-label="Worth a look">
      <h2 className="head mb-1">Worth a look</h2>
      <ul className="flex list-disc flex-col gap-0.5 pl-4 text-sm marker:text-warn">
        {findings.slice(0, SHOWN).map(line)}
      </ul>
      {findings.length > SHOWN && (
        <details className="mt-1">
          <summary className="cursor-pointer text-sm text-soft">{findings.length - SHOWN} more</summary>
          <ul className="mt-1 flex list-disc flex-col gap-0.5 pl-4 text-sm marker:text-warn">
            {findings.slice(SHOWN, SHOWN + 200).map(line)}
          </ul>
        </details>
      )}
    </section>
  );
}
