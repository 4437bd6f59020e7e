import { useEffect } from 'react';
import type { KeyGroup } from '#web/desks/shared/KeyHelp.tsx';
import { focusRegion } from '#web/desks/shared/SkipLinks.tsx';
import { undoneByKey } from '#web/desks/shared/undo-keys.ts';
import { goToStep, redo, sceneNow, undo, useDesk } from './desk-store.ts';
import { trackNow } from './play-track.ts';

/** The parts of the desk that F6 goes round, and the ways past what comes before them. */
export const regions = [
  { id: 'lines', name: 'the lines' },
  { id: 'picture', name: 'the picture' },
  { id: 'time', name: 'the time' },
];

/** What the keys do, as “?” lists it. */
export const deskKeys: readonly KeyGroup[] = [
  {
    name: 'Everywhere',
    keys: [
      ['Ctrl Z', 'undo'],
      ['Ctrl Shift Z', 'redo'],
      ['Space', 'play or pause; on a button or word with Shift'],
      [', and .', 'one step back, one step on'],
      ['F6', 'the next part of the desk: lines, picture, time'],
      ['Tab, then arrows', 'to a group, then within it'],
      ['?', 'this list'],
    ],
  },
  {
    name: 'The picture',
    keys: [
      ['arrows', 'turn (flat runs: move)'],
      ['Shift arrows', 'move (flat runs: turn)'],
      ['arrows, walking', 'ahead and back, turn the head; with Shift aside and up'],
      ['+ and −', 'nearer, farther'],
      ['Home', 'all of the run, aslant'],
      ['Enter', 'point: arrows move the cross, Enter chooses, Escape ends'],
    ],
  },
  {
    name: 'Lines',
    keys: [
      ['arrows', 'from word to word'],
      ['Enter', 'open the choices of a word'],
      ['Space on a grip', 'take the line, arrows move it, Space lets go'],
    ],
  },
  {
    name: 'Legends, words and the time on the picture',
    keys: [
      ['arrows', 'move'],
      ['Shift arrows', 'to the next edge or middle of the picture or of something else'],
      ['Enter', 'edit the title or the words'],
      ['T', 'turn a legend'],
      ['Delete', 'delete words or marks'],
    ],
  },
];

/** Goes to the next of the regions, or back. */
function goRound(back: boolean): void {
  const at = regions.findIndex(({ id }) => document.getElementById(id)?.contains(document.activeElement));
  const to = at < 0 ? 0 : (at + (back ? regions.length - 1 : 1)) % regions.length;
  focusRegion(regions[to].id);
}

/** One step, or one picture of the film, back or on. */
function oneOn(by: 1 | -1): void {
  if (useDesk.getState().desk !== 'reel') {
    goToStep(sceneNow().step + by);
    return;
  }
  const track = trackNow();
  track.go(Math.max(0, Math.min(track.count() - 1, track.now(sceneNow()) + by)));
}

/**
 * Keys of the whole desk: undo and redo as everywhere, space to play, comma and full stop for single steps, F6 to go
 * round.
 */
export function useDeskKeys(): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const typing = target.matches('input:not([type=range]), textarea, select, [contenteditable]');
      const command = event.ctrlKey || event.metaKey;
      if (undoneByKey(event, undo, redo)) return;
      if (
        !typing &&
        !command &&
        event.key === ' ' &&
        (event.shiftKey || !target.matches('button, a, summary, [role=slider], [role=button]'))
      ) {
        event.preventDefault();
        useDesk.setState((s) => ({ playing: !s.playing && trackNow().count() > 1 }));
      } else if (event.key === 'F6' && !command) {
        event.preventDefault();
        goRound(event.shiftKey);
      } else if (!typing && !command && (event.key === ',' || event.key === '.')) {
        oneOn(event.key === ',' ? -1 : 1);
      }
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, []);
}
