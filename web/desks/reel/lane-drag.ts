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

export const areChosen = (chosen: readonly KeyAt[], keys: readonly KeyAt[]): boolean =>
  keys.every((k) => isChosen(chosen, k));

/** Chooses keys alone, or with those that are chosen; when all of them are chosen already, they leave these. */
function chooseKeys(keys: readonly KeyAt[], also: boolean): void {
  useDesk.setState(({ chosenKeys }) => {
    if (!also) return { chosenKeys: keys };
    const others = chosenKeys.filter((k) => !isChosen(keys, k));
    return { chosenKeys: areChosen(chosenKeys, keys) ? others : [...others, ...keys] };
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

/** Dragging of keys of one time: they take all that are chosen along, and snap with themselves. */
export function useKeyDrag(scale: TimeScale): {
  drag: KeyDrag | null;
  hold(e: PointerEvent<HTMLElement>, held: readonly KeyAt[]): void;
} {
  const [drag, setDrag] = useState<KeyDrag | null>(null);
  const hold = (e: PointerEvent<HTMLElement>, held: readonly KeyAt[]) => {
    if (e.button !== 0) return;
    const { chosenKeys } = useDesk.getState();
    if (e.shiftKey) return chooseKeys(held, true);
    const [key] = held;
    const keys = areChosen(chosenKeys, held) ? chosenKeys : held;
    if (keys !== chosenKeys) chooseKeys(held, false);
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
