import { Camera, RefreshCw, Trash2 } from 'lucide-react';
import { sceneShotHeadings } from '#core/scene/shot-groups.ts';
import type { Viewport } from '#stage/viewport.ts';
import { useRoving } from '#web/desks/shared/roving.ts';
import { ShotBoard } from '#web/desks/shared/shots/ShotBoard.tsx';
import { nextShotName, ShotAct, ShotTile } from '#web/desks/shared/shots/ShotTile.tsx';
import type { DeskController } from './desk-controller.ts';
import { useDesk } from './desk-store.ts';
import { openShot, whatIsOnShow } from './open-shot.ts';
import { thumbnailOf } from './StageView.tsx';
import { changeShot, keepShot, orderShots, removeShot } from './shot-edits.ts';
import { numbersThumbnail } from './shots/numbers-picture.ts';
import { PresentShots } from './shots/PresentShots.tsx';

interface Props {
  controller: DeskController;
  viewport: Viewport | null;
}

/** Kept states of the scene with their pictures. */
export function Shots({ controller, viewport }: Props) {
  const shots = useDesk((s) => s.shots);
  const list = useRoving<HTMLUListElement>();

  const now = async () => {
    const shown = whatIsOnShow();
    const thumbnail =
      shown.kind === 'charts'
        ? await numbersThumbnail(controller.source, shown.document)
        : await thumbnailOf(viewport!);
    return { ...shown, thumbnail };
  };
  const keep = async () => keepShot({ name: nextShotName(shots), ...(await now()) });

  return (
    <div
      className={`flex max-w-[380px] items-center gap-2 border-l border-rule pl-4 ${shots.length > 0 ? 'min-w-40' : 'min-w-16'}`}
    >
      <ul ref={list} aria-label="Shots" className="flex min-w-0 gap-2 overflow-x-auto py-1">
        {shots.map((kept) => (
          <ShotTile
            key={kept.id}
            name={kept.name}
            thumbnail={kept.thumbnail}
            problem={kept.problem}
            onOpen={() => openShot(kept)}
            onRename={(name) => void changeShot(kept, { name })}
          >
            <ShotAct onSelect={async () => changeShot(kept, await now())}>
              <RefreshCw size={14} /> Keep the present state here
            </ShotAct>
            <ShotAct onSelect={() => removeShot(kept)}>
              <Trash2 size={14} /> Delete
            </ShotAct>
          </ShotTile>
        ))}
      </ul>
      {shots.length > 0 && viewport && (
        <ShotBoard
          shots={shots}
          headings={sceneShotHeadings}
          onOpen={openShot}
          onChange={changeShot}
          onRemove={removeShot}
          onOrder={orderShots}
          present={(some, first, onDone) => (
            <PresentShots
              controller={controller}
              viewport={viewport}
              shots={some}
              first={first}
              onDone={onDone}
            />
          )}
        />
      )}
      <button
        type="button"
        className="quiet shrink-0"
        title="Keep shot"
        aria-label="Keep shot"
        onClick={keep}
        disabled={!viewport}
      >
        <Camera size={15} /> <span className="@max-3xl:hidden">Keep shot</span>
      </button>
    </div>
  );
}
