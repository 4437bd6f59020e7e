import { keysOfValues } from '#core/motion/keyed-edit.ts';
import { type Address, optionsOfControl, read, staysInFilm } from '#core/scene/addresses.ts';
import { edit, useDesk, useKeptScene, useScene } from '#web/desks/stage/desk-store.ts';
import { sayFilmTime } from './time-scale.ts';

const looks = {
  'key here': 'border-accent bg-accent',
  moves: 'border-accent bg-accent-wash',
  none: 'border-soft/60 bg-transparent',
} as const;

/** What a control changes, where that can have keys: whether it has, and a key set or taken away at the time that is shown. */
export function KeyDot({ at, control }: { at: Address; control: Parameters<typeof optionsOfControl>[0] }) {
  const kept = useKeptScene();
  const shown = useScene();
  const time = useDesk((s) => s.filmTime);
  const isReel = useDesk((s) => s.desk === 'reel');
  // The camera that is shown is then none of the film.
  const isSeenFromOutside = useDesk((s) => s.outside !== null) && isReel && at[0] === 'camera';
  const values = optionsOfControl(control)
    .map((option) => [...at, option])
    .filter((of) => read(shown, of) !== undefined);
  const { state, keys, of } = keysOfValues(kept, values, time);
  if (values.length === 0 || staysInFilm(at) || isSeenFromOutside || (!isReel && state === 'none'))
    return null;
  const name = control.label.toLowerCase();
  if (!isReel)
    return <Dot state="moves" title={`In the film, ${name} moves: its keys are on the Reel desk`} />;
  const says =
    state === 'key here'
      ? `Take the key of ${name} away at ${sayFilmTime(time)} s`
      : `Set a key of ${name} at ${sayFilmTime(time)} s`;
  const toggle = () =>
    edit(
      state === 'key here'
        ? { type: 'keys.remove', keys }
        : { type: 'keys.set', at: time, values: of.map((one) => ({ of: one, value: read(shown, one) })) },
    );
  return (
    <button
      type="button"
      aria-label={says}
      aria-pressed={state === 'key here'}
      title={says}
      className="group/dot flex size-6 shrink-0 items-center justify-center"
      onClick={toggle}
    >
      <Dot state={state} />
    </button>
  );
}

function Dot({ state, title }: { state: keyof typeof looks; title?: string }) {
  return (
    <span
      title={title}
      className={`size-2.5 shrink-0 rounded-full border-[1.5px] group-hover/dot:scale-125 ${looks[state]}`}
    />
  );
}

/** Beside a word of a sentence: whether what it says, or part of it, moves in the film, and has a key at the time that is shown. */
export function MovesMark({ of }: { of: Address }) {
  const state = useDesk((s) => keysOfValues(s.history.scene, [of], s.filmTime, true).state);
  if (state === 'none') return null;
  const isHere = state === 'key here';
  return (
    <span
      role="img"
      aria-label={isHere ? 'has a key here' : 'moves in the film'}
      title={isHere ? 'It has a key at the time of the film that is shown' : 'It moves in the film'}
      className={`ml-0.5 inline-block size-[7px] -translate-y-1.5 rounded-full border ${looks[state]}`}
    />
  );
}
