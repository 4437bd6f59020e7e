import { Camera, RefreshCw, Trash2 } from 'lucide-react';
import type { ReactNode, RefObject } from 'react';
import { type SetShot, type SetView, shownOf } from '#core/sets/set-view.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { useRoving } from '#web/desks/shared/roving.ts';
import { ShotBoard } from '#web/desks/shared/shots/ShotBoard.tsx';
import { nextShotName, ShotAct, ShotTile } from '#web/desks/shared/shots/ShotTile.tsx';
import { editSet, setNow, useRunSet } from '../set-store.ts';
import { thumbnailOfElement } from './set-thumbnail.ts';

interface Props {
  /** How the runs are looked at now. */
  view: SetView;
  /** Where that is on the page. */
  shown: RefObject<HTMLElement | null>;
  onShow(view: SetView): void;
  /** What fills the screen with some of them, one after the other. */
  present(shots: readonly SetShot[], first: number, onDone: () => void): ReactNode;
}

const headings: Readonly<Record<SetView, string>> = {
  table: 'Tables',
  strip: 'Strips',
  matrix: 'Matrices',
  response: 'Responses',
  relations: 'Relations',
};

/** Kept states of how the set is looked at, opened again by a press. */
export function SetShots({ view, shown, onShow, present }: Props) {
  const { shots } = useRunSet();
  const list = useRoving<HTMLUListElement>();
  const now = async (): Promise<Pick<SetShot, 'kind' | 'shown' | 'thumbnail'>> => ({
    kind: view,
    shown: shownOf(setNow()),
    thumbnail: shown.current ? await thumbnailOfElement(shown.current) : '',
  });
  const keep = (shot: SetShot): void => editSet({ type: 'set.shot.keep', shot });
  const keepNew = async (): Promise<void> =>
    keep({
      id: freshId('shot'),
      name: nextShotName(setNow().shots),
      folder: null,
      tags: [],
      notes: '',
      ...(await now()),
    });
  const open = ({ id, kind }: SetShot): void => {
    editSet({ type: 'set.shot.open', id });
    onShow(kind);
  };
  const remove = ({ id }: SetShot): void => editSet({ type: 'set.shot.remove', id });
  return (
    <section
      aria-label="Shots of the set"
      className="relative flex h-[72px] shrink-0 items-center gap-2 border-t border-rule bg-paper px-4"
    >
      {shots.length === 0 && (
        <p className="text-sm text-soft">A shot keeps what is shown here, to come back to and to present.</p>
      )}
      <ul ref={list} aria-label="Shots" className="flex min-w-0 flex-1 gap-2 overflow-x-auto py-1">
        {shots.map((one) => (
          <ShotTile
            key={one.id}
            name={one.name}
            thumbnail={one.thumbnail}
            onOpen={() => open(one)}
            onRename={(name) =>
              editSet({ type: 'set.shot.change', id: one.id, change: { name: name.slice(0, 200) } })
            }
          >
            <ShotAct onSelect={async () => keep({ ...one, ...(await now()) })}>
              <RefreshCw size={14} /> Keep the present state here
            </ShotAct>
            <ShotAct onSelect={() => remove(one)}>
              <Trash2 size={14} /> Delete
            </ShotAct>
          </ShotTile>
        ))}
      </ul>
      {shots.length > 0 && (
        <ShotBoard
          shots={shots}
          headings={headings}
          onOpen={open}
          onChange={({ id }, change) => editSet({ type: 'set.shot.change', id, change })}
          onRemove={remove}
          onOrder={(ids) => editSet({ type: 'set.shot.order', ids })}
          present={present}
        />
      )}
      <button type="button" className="quiet shrink-0" onClick={() => void keepNew()}>
        <Camera size={15} /> Keep shot
      </button>
    </section>
  );
}
