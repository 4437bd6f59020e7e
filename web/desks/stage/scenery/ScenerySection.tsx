import { Copy, Eye, EyeOff, Group, Lock, LockOpen, Scan, Trash2, Ungroup } from 'lucide-react';
import { speak } from '#core/language/sentence.ts';
import type { Piece } from '#core/scene/document.ts';
import { sceneryKind, sceneryKinds } from '#core/scene/scenery/registry.ts';
import { groupOf } from '#core/scene/scenery/scenery-edits.ts';
import { settingOf } from '#core/scene/setting.ts';
import { AddKind } from '../AddKind.tsx';
import type { AnyControl } from '../controls/control-props.ts';
import { edit, openScenery, useDesk, useRun, useScene } from '../desk-store.ts';
import { FoldedSection, useUnfolded } from '../FoldedSection.tsx';
import { KeepUnderName } from '../KeepUnderName.tsx';
import { Act, ListedLine } from '../ListedLine.tsx';
import { addScenery, duplicatePieces, lookAtScenery } from './add-scenery.ts';

/** What stands beside the results, a line each; pieces of a group together. */
export function ScenerySection() {
  const { scenery } = useScene();
  const [open, setOpen] = useUnfolded(useDesk((s) => s.openPiece));
  const groups = [...new Set(scenery.flatMap((s) => s.group ?? []))];
  return (
    <FoldedSection
      label="Scenery"
      title="Scenery"
      aside={scenery.length > 0 && scenery.length}
      open={open}
      onOpen={setOpen}
    >
      <div className="mt-1 pl-1">
        <ul>
          {scenery
            .filter((s) => s.group === null)
            .map((piece) => (
              <PieceLine key={piece.id} piece={piece} />
            ))}
          {groups.map((name) => (
            <GroupLine key={name} name={name} pieces={scenery.filter((s) => s.group === name)} />
          ))}
        </ul>
        <AddKind
          title="Add scenery"
          kinds={sceneryKinds}
          onChoose={(id) => {
            setOpen(true);
            addScenery(id);
          }}
        >
          <p className="mt-2 border-t border-rule/70 px-2 pt-2 text-xs text-soft">
            Scenery stands beside the results: it is lit and casts shadows, but has no values. A file of
            bodies can also be dropped on the picture.
          </p>
        </AddKind>
        {scenery.some((s) => s.visible) && (
          <button
            type="button"
            className="mx-1 my-1 inline-flex items-center gap-1.5 rounded-full px-2 py-0.5 text-soft hover:bg-sunk"
            onClick={() =>
              lookAtScenery(
                scenery.filter((s) => s.visible),
                true,
              )
            }
          >
            <Scan size={15} /> See it all
          </button>
        )}
      </div>
    </FoldedSection>
  );
}

const set = (pieces: readonly Piece[], change: Partial<Pick<Piece, 'visible' | 'locked' | 'group'>>): void =>
  edit({ type: 'scenery.set', ids: pieces.map((s) => s.id), change });

/** A group: all of it is hidden, locked or taken apart at once. */
function GroupLine({ name, pieces }: { name: string; pieces: readonly Piece[] }) {
  const visible = pieces.some((s) => s.visible);
  const locked = pieces.every((s) => s.locked);
  const [Seen, does] = visible ? [Eye, 'Hide'] : [EyeOff, 'Show'];
  return (
    <li>
      <div className="mt-1 flex items-center gap-1">
        <button
          type="button"
          className="mark size-7 shrink-0"
          aria-pressed={visible}
          aria-label={`${does} the group ${name}`}
          onClick={() => set(pieces, { visible: !visible })}
        >
          <Seen size={15} />
        </button>
        <span className="head min-w-0 flex-1 truncate">{name}</span>
        <LockMark
          said={`the group ${name}`}
          locked={locked}
          onLock={() => set(pieces, { locked: !locked })}
        />
        <button
          type="button"
          className="mark size-7 shrink-0"
          aria-label={`Take the group ${name} apart`}
          title="Take the group apart"
          onClick={() => set(pieces, { group: null })}
        >
          <Ungroup size={15} />
        </button>
      </div>
      <ul className="ml-3 border-l border-rule/70 pl-1">
        {pieces.map((piece) => (
          <PieceLine key={piece.id} piece={piece} />
        ))}
      </ul>
    </li>
  );
}

function LockMark({ said, locked, onLock }: { said: string; locked: boolean; onLock(): void }) {
  const Shown = locked ? Lock : LockOpen;
  return (
    <button
      type="button"
      className={`mark size-7 shrink-0 ${locked ? '' : 'opacity-0 group-hover/line:opacity-100 focus-visible:opacity-100'}`}
      aria-pressed={locked}
      aria-label={locked ? `Unlock ${said}` : `Lock ${said}`}
      title={locked ? 'Locked: it stays as it is. Click to unlock' : 'Lock it as it is'}
      onClick={onLock}
    >
      <Shown size={14} />
    </button>
  );
}

/** Settings that are folded away. */
const folded = new Set(['name', 'times', 'up']);

function PieceLine({ piece }: { piece: Piece }) {
  const run = useRun();
  const scene = useScene();
  const { id, visible, locked } = piece;
  const opened = useDesk((s) => s.openPiece === id);
  const kind = sceneryKind(piece.kind);
  const setting = settingOf(run, scene);
  const said = speak(kind.phrase.say(piece, setting) ?? []);
  const all = groupOf(scene, id);
  return (
    <ListedLine
      said={said}
      visible={visible}
      onVisible={() => set([piece], { visible: !visible })}
      open={opened}
      onOpen={(open) => (open ? openScenery(id) : useDesk.setState({ openPiece: null }))}
      controls={kind.controls as unknown as AnyControl[]}
      folded={folded}
      foldedTitle="Name and more"
      common={{
        options: piece,
        at: ['scenery', id],
        setting,
        set: (change, key = null) => edit({ type: 'scenery.change', id, change }, key && `${key}-${id}`),
      }}
      locked={locked}
      onDelete={() => edit({ type: 'scenery.remove', ids: [id] })}
      mark={<LockMark said={said} locked={locked} onLock={() => set([piece], { locked: !locked })} />}
    >
      <Act onDo={() => lookAtScenery([piece], false)}>
        <Scan size={14} /> Look at it
      </Act>
      <Act onDo={() => duplicatePieces(all)}>
        <Copy size={14} /> {all.length > 1 ? 'Duplicate the group' : 'Duplicate'}
      </Act>
      <Act onDo={() => set([piece], { locked: !locked })}>
        {locked ? <LockOpen size={14} /> : <Lock size={14} />} {locked ? 'Unlock' : 'Lock'}
      </Act>
      {!locked && (
        <Act onDo={() => edit({ type: 'scenery.remove', ids: [id] })}>
          <Trash2 size={14} /> Delete
        </Act>
      )}
      <GroupChoices piece={piece} />
    </ListedLine>
  );
}

/** Which group a piece belongs to: none, one that is there, or a new one. */
function GroupChoices({ piece }: { piece: Piece }) {
  const { scenery } = useScene();
  const groups = [...new Set(scenery.flatMap((s) => s.group ?? []))].filter((g) => g !== piece.group);
  if (scenery.length < 2) return null;
  return (
    <div className="basis-full">
      {piece.group !== null && (
        <Act onDo={() => set([piece], { group: null })}>
          <Ungroup size={14} /> Out of {piece.group}
        </Act>
      )}
      {groups.map((name) => (
        <Act key={name} onDo={() => set([piece], { group: name })}>
          <Group size={14} /> Into {name}
        </Act>
      ))}
      <div className="mt-1.5">
        <KeepUnderName
          label="Name of a new group"
          hint="a new group"
          says={() => 'Group'}
          onKeep={(name) => set([piece], { group: name })}
        />
      </div>
    </div>
  );
}
