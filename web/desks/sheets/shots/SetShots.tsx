import { ArrowLeft, ArrowRight, Camera, NotebookPen, Presentation, RefreshCw, Trash2 } from 'lucide-react';
import { Dialog } from 'radix-ui';
import { type RefObject, useState } from 'react';
import type { SetShot, SetView } from '#core/sets/set-view.ts';
import { shownOf } from '#core/sets/set-view.ts';
import { useRoving } from '#web/desks/shared/roving.ts';
import { nextShotName, ShotAct, ShotTile } from '#web/desks/shared/ShotTile.tsx';
import { freshId } from '#web/desks/stage/desk-store.ts';
import { editSet, setNow, useRunSet } from '../set-store.ts';
import { thumbnailOfElement } from './set-thumbnail.ts';

interface Props {
  /** How the runs are looked at now. */
  as: SetView;
  /** Where that is on the page. */
  shown: RefObject<HTMLElement | null>;
  onShow(view: SetView): void;
  /** Told of the place of the first. */
  onPresent(first: number): void;
}

/** Kept states of how the set is looked at, opened again by a press. */
export function SetShots({ as, shown, onShow, onPresent }: Props) {
  const { shots } = useRunSet();
  const list = useRoving<HTMLUListElement>();
  const [noted, setNoted] = useState<string | null>(null);
  const now = async (): Promise<Pick<SetShot, 'as' | 'shown' | 'thumbnail'>> => ({
    as,
    shown: shownOf(setNow()),
    thumbnail: shown.current ? await thumbnailOfElement(shown.current) : '',
  });
  const keep = (shot: SetShot): void => editSet({ type: 'set.shot.keep', shot });
  const keepNew = async (): Promise<void> =>
    keep({ id: freshId('shot'), name: nextShotName(shots), notes: '', ...(await now()) });
  const open = (shot: SetShot): void => {
    editSet({ type: 'set.shot.open', id: shot.id });
    onShow(shot.as);
  };
  const move = (from: number, to: number): void => {
    const ids = shots.map((s) => s.id);
    const [moved] = ids.splice(from, 1);
    editSet({ type: 'set.shot.order', ids: ids.toSpliced(to, 0, moved) });
  };
  return (
    <section
      aria-label="Shots of the set"
      className="relative flex h-[72px] shrink-0 items-center gap-2 border-t border-rule bg-paper px-4"
    >
      {shots.length === 0 && (
        <p className="text-sm text-soft">A shot keeps what is shown here, to come back to and to present.</p>
      )}
      <ul ref={list} aria-label="Shots" className="flex min-w-0 flex-1 gap-2 overflow-x-auto py-1">
        {shots.map((one, at) => (
          <ShotTile
            key={one.id}
            name={one.name}
            thumbnail={one.thumbnail}
            onOpen={() => open(one)}
            onRename={(name) =>
              editSet({ type: 'set.shot.change', id: one.id, change: { name: name.slice(0, 200) } })
            }
          >
            <ShotAct onSelect={() => setNoted(one.id)}>
              <NotebookPen size={14} /> Notes
            </ShotAct>
            <ShotAct onSelect={async () => keep({ ...one, ...(await now()) })}>
              <RefreshCw size={14} /> Keep the present state here
            </ShotAct>
            {at > 0 && (
              <ShotAct onSelect={() => move(at, at - 1)}>
                <ArrowLeft size={14} /> Move to the left
              </ShotAct>
            )}
            {at < shots.length - 1 && (
              <ShotAct onSelect={() => move(at, at + 1)}>
                <ArrowRight size={14} /> Move to the right
              </ShotAct>
            )}
            <ShotAct onSelect={() => editSet({ type: 'set.shot.remove', id: one.id })}>
              <Trash2 size={14} /> Delete
            </ShotAct>
          </ShotTile>
        ))}
      </ul>
      {shots.length > 0 && (
        <button
          type="button"
          className="quiet shrink-0"
          title="One after the other, filling the screen"
          onClick={() => onPresent(0)}
        >
          <Presentation size={15} /> Present
        </button>
      )}
      <button type="button" className="quiet shrink-0" onClick={() => void keepNew()}>
        <Camera size={15} /> Keep shot
      </button>
      <NotesOf shot={shots.find((s) => s.id === noted) ?? null} onDone={() => setNoted(null)} />
    </section>
  );
}

function NotesOf({ shot, onDone }: { shot: SetShot | null; onDone(): void }) {
  return (
    <Dialog.Root open={shot !== null} onOpenChange={(open) => !open && onDone()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-50 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="card fixed top-1/3 left-1/2 z-50 w-[440px] -translate-x-1/2 p-5"
        >
          <Dialog.Title className="mb-3 font-medium">Notes on {shot?.name}</Dialog.Title>
          <textarea
            aria-label={`Notes on ${shot?.name}`}
            placeholder="notes for whoever presents it"
            className="field min-h-32 w-full resize-y text-sm"
            maxLength={20_000}
            value={shot?.notes ?? ''}
            onChange={(e) =>
              shot &&
              editSet(
                { type: 'set.shot.change', id: shot.id, change: { notes: e.target.value } },
                `notes ${shot.id}`,
              )
            }
          />
          <div className="mt-3 flex justify-end">
            <Dialog.Close className="act">Done</Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
