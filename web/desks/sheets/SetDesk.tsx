import { useEffect, useMemo, useRef, useState } from 'react';
import type { RunSet } from '#core/sets/run-set.ts';
import { type SetView, setViews } from '#core/sets/set-view.ts';
import type { DocumentSaver } from '#web/desks/shared/document-saver.ts';
import { Guard } from '#web/desks/shared/Guard.tsx';
import { NameOfDocument } from '#web/desks/shared/NameOfDocument.tsx';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { SaveNotice } from '#web/desks/shared/SaveNotice.tsx';
import { TopBar } from '#web/desks/shared/TopBar.tsx';
import { UndoRedo } from '#web/desks/shared/UndoRedo.tsx';
import { undoneByKey } from '#web/desks/shared/undo-keys.ts';
import type { ListedRun } from '#web/server/run-sets.ts';
import { BatchPanel } from './batch/BatchPanel.tsx';
import { LaySideBySide } from './LaySideBySide.tsx';
import { SetPanel } from './SetPanel.tsx';
import { ShownSet } from './ShownSet.tsx';
import {
  editSet,
  openSetDesk,
  redoSet,
  undoSet,
  useRunSet,
  useRunTable,
  useSet,
  useShownRows,
} from './set-store.ts';
import { PresentSet } from './shots/PresentSet.tsx';
import { SetShots } from './shots/SetShots.tsx';
import { useShots } from './use-shots.ts';

const saysOfView: Record<SetView, string> = {
  table: 'all that is known of each run',
  strip: 'one picture after the other',
  matrix: 'pictures by two parameters',
  response: 'an output against inputs',
  relations: 'how all numbers go together',
};

/** The address of the page says which it is. */
function useSetView(): [SetView, (view: SetView) => void] {
  const asked = (): SetView => setViews.find((name) => location.hash === `#${name}`) ?? 'table';
  const [view, setView] = useState(asked);
  useEffect(() => {
    const follow = (): void => setView(asked());
    addEventListener('hashchange', follow);
    return () => removeEventListener('hashchange', follow);
  }, []);
  const show = (to: SetView): void => {
    history.replaceState(null, '', `#${to}`);
    setView(to);
  };
  return [view, show];
}

interface Props {
  id: string;
  document: RunSet;
  revision: number;
  runs: ListedRun[];
}

/** The desk where many runs are looked at together. */
export function SetDesk({ id, document, revision, runs }: Props) {
  const [saver, setSaver] = useState<DocumentSaver<RunSet> | null>(null);
  useEffect(() => {
    const desk = openSetDesk(id, document, revision, runs);
    setSaver(desk.saver);
    const onKey = (event: KeyboardEvent): void => void undoneByKey(event, undoSet, redoSet);
    addEventListener('keydown', onKey);
    return () => {
      removeEventListener('keydown', onKey);
      desk.close();
    };
  }, []);
  if (!saver) return null;
  return (
    <Guard what="The desk" onUndo={undoSet}>
      <Desk id={id} saver={saver} />
    </Guard>
  );
}

function Desk({ id, saver }: { id: string; saver: DocumentSaver<RunSet> }) {
  const { name } = useRunSet();
  const history = useSet((s) => s.history);
  const save = useSet((s) => s.save);
  const runs = useSet((s) => s.runs);
  const byId = useMemo(() => new Map(runs.map((r) => [r.id, r])), [runs]);
  const table = useRunTable();
  const groups = useShownRows(table);
  const rows = useMemo(() => groups.flatMap((g) => g.rows), [groups]);
  const shots = useShots();
  const [view, showView] = useSetView();
  const isPresented = useSet((s) => s.presented !== null);
  const shown = useRef<HTMLDivElement>(null);
  const first = table.rows.find((r) => byId.get(r.id)?.scene);
  return (
    <div className="flex h-screen flex-col overflow-hidden">
      <TopBar
        desk="sheets"
        stageHref={first ? `/scene/${byId.get(first.id)!.scene}` : null}
        title={
          <NameOfDocument
            label="Name of the set"
            name={name}
            save={save.kind}
            onRename={(to) => editSet({ type: 'set.rename', name: to }, 'rename')}
          />
        }
      >
        <UndoRedo history={history} undo={undoSet} redo={redoSet} />
      </TopBar>
      <SaveNotice what="set" save={save} saver={saver} />
      <div className="flex min-h-0 flex-1">
        <aside
          aria-label="The set"
          className="w-[340px] shrink-0 overflow-y-auto border-r border-rule bg-paper"
        >
          <SetPanel id={id} saver={saver} table={table} groups={groups} />
          <LaySideBySide set={id} shots={shots ?? []} />
          <BatchPanel id={id} shown={rows.map((row) => table.rows[row].id)} shots={shots ?? []} />
        </aside>
        <main className="flex min-w-0 flex-1 flex-col">
          <nav
            aria-label="How the runs are looked at"
            className="flex gap-1.5 border-b border-rule px-4 py-2"
          >
            {setViews.map((name) => (
              <Pill key={name} on={view === name} title={saysOfView[name]} onClick={() => showView(name)}>
                {name}
              </Pill>
            ))}
          </nav>
          <div ref={shown} className="flex min-h-0 flex-1 flex-col">
            {!isPresented && (
              <ShownSet id={id} as={view} table={table} groups={groups} runs={byId} shots={shots} />
            )}
          </div>
          <SetShots
            view={view}
            shown={shown}
            onShow={showView}
            present={(some, first, onDone) => (
              <PresentSet
                id={id}
                kept={some}
                table={table}
                runs={byId}
                shots={shots ?? []}
                first={first}
                onDone={onDone}
              />
            )}
          />
        </main>
      </div>
    </div>
  );
}
