import { useEffect, useMemo, useState } from 'react';
import type { SideBySide } from '#core/beside/side-by-side.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { DocumentSaver } from '#web/desks/shared/document-saver.ts';
import { Guard } from '#web/desks/shared/Guard.tsx';
import { NameOfDocument } from '#web/desks/shared/NameOfDocument.tsx';
import { SaveNotice } from '#web/desks/shared/SaveNotice.tsx';
import { TopBar } from '#web/desks/shared/TopBar.tsx';
import { UndoRedo } from '#web/desks/shared/UndoRedo.tsx';
import { undoneByKey } from '#web/desks/shared/undo-keys.ts';
import { FindingContext } from '#web/desks/stage/finding-context.ts';
import { ScenePanel } from '#web/desks/stage/ScenePanel.tsx';
import { chosenPane, editSide, openBeside, redoSide, undoSide, useBeside, useSide } from './beside-store.ts';
import { GiveSide } from './GiveSide.tsx';
import { SideBar } from './SideBar.tsx';
import { SidePanes } from './SidePanes.tsx';
import { SideTime } from './SideTime.tsx';
import { SideController } from './side-controller.ts';

interface Props {
  id: string;
  document: SideBySide;
  revision: number;
  runs: Record<string, RunDescription>;
}

interface Opened {
  saver: DocumentSaver<SideBySide>;
  /** Null where the browser has nothing to draw with. */
  controller: SideController | null;
}

/** The desk where scenes, curves and tables are looked at side by side. */
export function SideDesk({ id, document, revision, runs }: Props) {
  const [opened, setOpened] = useState<Opened | null>(null);
  useEffect(() => {
    const desk = openBeside(id, document, revision, runs);
    const controller = madeOrNull();
    setOpened({ saver: desk.saver, controller });
    const onKey = (event: KeyboardEvent): void => void undoneByKey(event, undoSide, redoSide);
    addEventListener('keydown', onKey);
    return () => {
      removeEventListener('keydown', onKey);
      controller?.close();
      desk.close();
    };
  }, []);
  if (!opened) return null;
  if (!opened.controller)
    return (
      <p role="alert" className="m-auto max-w-md p-10">
        This browser offers no WebGL 2, which the pictures are drawn with. Turn on hardware acceleration or
        use another browser.
      </p>
    );
  return (
    <Guard what="The desk" onUndo={undoSide}>
      <Desk saver={opened.saver} controller={opened.controller} />
    </Guard>
  );
}

function madeOrNull(): SideController | null {
  try {
    return new SideController();
  } catch {
    return null;
  }
}

function Desk({ saver, controller }: { saver: DocumentSaver<SideBySide>; controller: SideController }) {
  const { name } = useSide();
  const history = useBeside((s) => s.history);
  const save = useBeside((s) => s.save);
  const chosen = useBeside((s) => chosenPane(s)?.id ?? null);
  const [lines, setLines] = useState(false);
  const run = useBeside((s) => chosenPane(s)?.run ?? null);
  const isThere = useBeside((s) => run !== null && s.runs.has(run));
  const finding = useMemo(
    () => (run !== null && isThere ? controller.findingOf(run) : null),
    [controller, run, isThere],
  );
  const panel = lines && chosen && finding;
  return (
    <div className="flex h-screen flex-col overflow-hidden">
      <TopBar
        desk="sheets"
        stageHref={null}
        title={
          <NameOfDocument
            label="Name of what is side by side"
            name={name}
            save={save.kind}
            onRename={(to) => editSide({ type: 'side.rename', name: to }, 'rename')}
          />
        }
      >
        <UndoRedo history={history} undo={undoSide} redo={redoSide} />
        <GiveSide controller={controller} />
      </TopBar>
      <SaveNotice what="side by side" save={save} saver={saver} />
      <SideBar lines={lines} onLines={setLines} />
      <div className="flex min-h-0 flex-1">
        {panel && (
          <FindingContext value={finding}>
            <ScenePanel />
          </FindingContext>
        )}
        <main aria-label="Panes" className="flex min-w-0 flex-1 flex-col bg-sunk">
          <SidePanes controller={controller} editing={Boolean(panel)} />
        </main>
      </div>
      <SideTime />
    </div>
  );
}
