import { type PointerEvent, useState } from 'react';
import type { KeyAt } from '#core/scene/reel/reel-edits.ts';
import { edit, keptSceneNow, useDesk } from '#web/desks/stage/desk-store.ts';
import { snapped, type TimeScale } from './time-scale.ts';

/** Nearer than this, in pixels, keys snap to something. */
const SNAP = 7;
/** A press that moves less than this is none that drags, in pixels. */
const STILL = 3;

export const isChosen = (chosen: readonly KeyAt[], { lane, at }: KeyAt): boolean =>
  chosen.some((k) => k.lane === lane && k.at === at);

/** Chooses a key alone, or with those that are chosen; one that is chosen already leaves them. */
export function chooseKey(key: KeyAt, also: boolean): void {
  useDesk.setState(({ chosenKeys }) => {
    if (!also) return { chosenKeys: [key] };
    return isChosen(chosenKeys, key)
      ? { chosenKeys: chosenKeys.filter((k) => k.lane !== key.lane || k.at !== key.at) }
      : { chosenKeys: [...chosenKeys, key] };
  });
}

/** What keys snap to: pictures of the film where these lie apart enough, other keys, markers, the time that is looked at. */
function snapTimes(scale: TimeScale, moved: readonly KeyAt[]): number[] {
  const { lanes, markers, reel } = keptSceneNow();
  const keys = lanes.flatMap((l) => l.keys.filter((k) => !isChosen(moved, { lane: l.id, at: k.at })));
  const pictures =
    scale.pace / reel.rate > 2 * SNAP
      ? Array.from({ length: Math.ceil(reel.seconds * reel.rate) + 1 }, (_, i) => i / reel.rate)
      : [];
  return [
    ...pictures,
    ...keys.map((k) => k.at),
    ...markers.map((m) => m.at),
    useDesk.getState().filmTime,
    0,
    reel.seconds,
  ];
}

/** Where keys are brought while they are dragged; the edit is made when they are let go. */
export interface KeyDrag {
  keys: readonly KeyAt[];
  by: number;
  around: number;
  factor: number;
}

export const NO_DRAG = { by: 0, around: 0, factor: 1 };

/** The time of a key while it is dragged. */
export const draggedTo = ({ keys, by, around, factor }: KeyDrag, key: KeyAt): number =>
  isChosen(keys, key) ? Math.max(0, around + (key.at - around) * factor + by) : key.at;

/** Makes what was dragged; with `copy` the keys stay and others come. */
export function dropKeys({ keys, by, around, factor }: KeyDrag, copy: boolean): void {
  if (by === 0 && factor === 1) return;
  edit(
    copy && factor === 1 ? { type: 'keys.copy', keys, by } : { type: 'keys.move', keys, by, around, factor },
  );
  const drag = { keys, by, around, factor };
  useDesk.setState({ chosenKeys: keys.map((k) => ({ lane: k.lane, at: draggedTo(drag, k) })) });
}

/** Dragging of a key: it takes all that are chosen along, and snaps with the one that is held. */
export function useKeyDrag(scale: TimeScale): {
  drag: KeyDrag | null;
  hold(e: PointerEvent<HTMLElement>, key: KeyAt): void;
} {
  const [drag, setDrag] = useState<KeyDrag | null>(null);
  const hold = (e: PointerEvent<HTMLElement>, key: KeyAt) => {
    if (e.button !== 0) return;
    const { chosenKeys } = useDesk.getState();
    if (e.shiftKey) return chooseKey(key, true);
    const keys = isChosen(chosenKeys, key) ? chosenKeys : [key];
    if (keys !== chosenKeys) chooseKey(key, false);
    const bead = e.currentTarget;
    bead.setPointerCapture(e.pointerId);
    const from = e.clientX;
    const times = snapTimes(scale, keys);
    let now: KeyDrag = { keys, ...NO_DRAG };
    const move = (m: globalThis.PointerEvent) => {
      if (Math.abs(m.clientX - from) < STILL && now.by === 0) return;
      const to = snapped(key.at + (m.clientX - from) / scale.pace, times, SNAP / scale.pace);
      now = { ...now, by: Math.max(to, 0) - key.at };
      setDrag(now);
    };
    const end = (u: globalThis.PointerEvent) => {
      bead.removeEventListener('pointermove', move);
      bead.removeEventListener('pointerup', end);
      bead.removeEventListener('pointercancel', end);
      setDrag(null);
      if (u.type === 'pointerup') dropKeys(now, u.altKey);
    };
    bead.addEventListener('pointermove', move);
    bead.addEventListener('pointerup', end);
    bead.addEventListener('pointercancel', end);
  };
  return { drag, hold };
}
