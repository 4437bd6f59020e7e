import { Send } from 'lucide-react';
import { useEffect, useState } from 'react';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { Scene } from '#core/scene/document.ts';
import type { Viewport } from '#stage/viewport.ts';
import { type BoardPlace, ChartBoard } from '#web/desks/gauges/ChartBoard.tsx';
import { showDesk } from '#web/desks/gauges/draw-curves.ts';
import { GaugePanel } from '#web/desks/gauges/GaugePanel.tsx';
import { GiveOut } from '#web/desks/give-out/GiveOut.tsx';
import { ReelStrip } from '#web/desks/reel/ReelStrip.tsx';
import { EarlierStates } from '#web/desks/shared/EarlierStates.tsx';
import { Guard } from '#web/desks/shared/Guard.tsx';
import { KeyHelp } from '#web/desks/shared/KeyHelp.tsx';
import { NameOfDocument } from '#web/desks/shared/NameOfDocument.tsx';
import { SkipLinks } from '#web/desks/shared/SkipLinks.tsx';
import { TopBar } from '#web/desks/shared/TopBar.tsx';
import { UndoRedo } from '#web/desks/shared/UndoRedo.tsx';
import { DeskController } from './desk-controller.ts';
import { deskKeys, regions, useDeskKeys } from './desk-keys.ts';
import { edit, goToStep, openDesk, redo, type StageDeskName, undo, useDesk, useScene } from './desk-store.ts';
import { FindingContext } from './finding-context.ts';
import { OnOtherRun } from './OnOtherRun.tsx';
import { RunNews } from './RunNews.tsx';
import { SceneNotice } from './SceneNotice.tsx';
import { ScenePanel } from './ScenePanel.tsx';
import { StageView } from './StageView.tsx';
import type { Shot } from './shot-edits.ts';
import { TimeStrip } from './TimeStrip.tsx';

/** Those that an address can lead to. */
const stageDesks: readonly StageDeskName[] = ['reel', 'gauges'];

interface Props {
  id: string;
  runId: string;
  run: RunDescription;
  document: Scene;
  revision: number;
  repairs: string[];
  shots: Shot[];
}

/** The desk where scenes are made. */
export function StageDesk(props: Props) {
  const [ready, setReady] = useState(false);
  const [controller, setController] = useState<DeskController | null>(null);
  const [viewport, setViewport] = useState<Viewport | null>(null);
  useEffect(() => {
    // Measures of the mesh are fields like those of the files.
    const run = withOfferedQuantities(props.run);
    openDesk({ ...props, run });
    const asked = stageDesks.find((name) => location.hash === `#${name}`);
    if (asked) useDesk.setState({ desk: asked });
    const made = new DeskController(run, props.revision);
    setController(made);
    setReady(true);
    return () => made.close();
  }, []);
  if (!ready || !controller) return null;
  return (
    <Guard what="The desk" onUndo={undo}>
      <Desk id={props.id} controller={controller} viewport={viewport} onViewport={setViewport} />
    </Guard>
  );
}

interface DeskProps {
  id: string;
  controller: DeskController;
  viewport: Viewport | null;
  onViewport(viewport: Viewport | null): void;
}

function Desk({ id, controller, viewport, onViewport }: DeskProps) {
  const giveOut = useDesk((s) => s.giveOut);
  const history = useDesk((s) => s.history);
  const desk = useDesk((s) => s.desk);
  const [board, setBoard] = useState<BoardPlace>('under');
  useDeskKeys();
  return (
    <FindingContext value={controller.finding}>
      <div className="flex h-screen flex-col overflow-hidden">
        <SkipLinks to={regions} />
        <TopBar desk={desk} stageHref={`/scene/${id}`} onDesk={showDesk} title={<SceneName />}>
          <EarlierStates<EarlierScene>
            what="scene"
            address={`/api/scenes/${id}/states`}
            bringBack={showEarlier}
          />
          <RunNews />
          <OnOtherRun />
          <UndoRedo history={history} undo={undo} redo={redo} />
          <KeyHelp groups={deskKeys} />
          <button
            type="button"
            className="act"
            onClick={() => useDesk.setState({ giveOut: !giveOut, outside: null })}
            aria-expanded={giveOut}
          >
            <Send size={15} /> Give out
          </button>
        </TopBar>
        <SceneNotice saver={controller.saver} />
        <div className="flex min-h-0 flex-1">
          {giveOut && viewport ? (
            <GiveOut controller={controller} viewport={viewport} />
          ) : desk === 'gauges' ? (
            <GaugePanel />
          ) : (
            <ScenePanel />
          )}
          <div className="flex min-w-0 flex-1 flex-col">
            <div className={`flex min-h-0 flex-1 ${board === 'beside' ? '' : 'flex-col'}`}>
              <StageView controller={controller} onViewport={onViewport} />
              {desk === 'gauges' && !giveOut && <ChartBoard place={board} onPlace={setBoard} />}
            </div>
            {desk === 'reel' ? (
              <ReelStrip controller={controller} />
            ) : (
              <TimeStrip controller={controller} viewport={viewport} />
            )}
          </div>
        </div>
      </div>
    </FindingContext>
  );
}

function SceneName() {
  const { name } = useScene();
  const save = useDesk((s) => s.save.kind);
  return (
    <NameOfDocument
      label="Name of the scene"
      name={name}
      save={save}
      onRename={(to) => edit({ type: 'scene.rename', name: to }, 'rename')}
    />
  );
}

interface EarlierScene {
  document: Scene;
  repairs: string[];
}

function showEarlier({ document, repairs }: EarlierScene): void {
  edit({ type: 'scene.replace', scene: document });
  goToStep(document.step);
  useDesk.setState({ repairs });
}
