import { type PointerEvent, useState } from 'react';
import type { KeyAt } from '#core/scene/reel/reel-edits.ts';
import { edit, keptSceneNow, useDesk } from '#web/desks/stage/desk-store.ts';
import { snapped, type TimeScale } from './time-scale.ts';

/** Nearer than this, in pixels, keys snap to something. */
export const SNAP = 7;
/** A press that moves less than this is none that drags, in pixels. */
const STILL = 3;

export const isChosen = (chosen: readonly KeyAt[], { lane, at }: KeyAt): boolean =>
  chosen.some((k) => k.lane === lane && k.at === at);

export const areChosen = (chosen: readonly KeyAt[], keys: readonly KeyAt[]): boolean =>
  keys.every((k) => isChosen(chosen, k));

/** Chooses keys alone, or with those that are chosen; when all of them are chosen already, they leave these. */
export function chooseKeys(keys: readonly KeyAt[], also: boolean): void {
  useDesk.setState(({ chosenKeys }) => {
    if (!also) return { chosenKeys: keys };
    const others = chosenKeys.filter((k) => !isChosen(keys, k));
    return { chosenKeys: areChosen(chosenKeys, keys) ? others : [...others, ...keys] };
  });
}

/**
 * Follows a press until it is let go.
 *
 * @param onMove hears how far it is from where it began, in pixels, once it has moved at all
 * @param onEnd hears the last event, or null where the press was taken away
 */
export function followPress(
  e: PointerEvent<HTMLElement>,
  onMove: (by: number, event: globalThis.PointerEvent) => void,
  onEnd: (event: globalThis.PointerEvent | null) => void,
): void {
  const held = e.currentTarget;
  held.setPointerCapture(e.pointerId);
  const [x, y] = [e.clientX, e.clientY];
  let still = true;
  const move = (m: globalThis.PointerEvent) => {
    still &&= Math.hypot(m.clientX - x, m.clientY - y) < STILL;
    if (!still) onMove(m.clientX - x, m);
  };
  const end = (u: globalThis.PointerEvent) => {
    held.removeEventListener('pointermove', move);
    held.removeEventListener('pointerup', end);
    held.removeEventListener('pointercancel', end);
    onEnd(u.type === 'pointerup' ? u : null);
  };
  held.addEventListener('pointermove', move);
  held.addEventListener('pointerup', end);
  held.addEventListener('pointercancel', end);
}

/** What keys snap to: pictures of the film where these lie apart enough, other keys, markers, the time that is looked at. */
export function snapTimes(scale: TimeScale, moved: readonly KeyAt[] = []): number[] {
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

const NO_DRAG = { by: 0, around: 0, factor: 1 };

/** Where a time comes to that is dragged. */
export const timeWhileDragged = ({ by, around, factor }: KeyDrag, at: number): number =>
  Math.max(0, around + (at - around) * factor + by);

/** The time of a key while some are dragged. */
export const draggedTo = (drag: KeyDrag, key: KeyAt): number =>
  isChosen(drag.keys, key) ? timeWhileDragged(drag, key.at) : key.at;

/** Makes what was dragged; with `copy` the keys stay and others come. */
function dropKeys({ keys, by, around, factor }: KeyDrag, copy: boolean): void {
  if (by === 0 && factor === 1) return;
  edit(
    copy && factor === 1 ? { type: 'keys.copy', keys, by } : { type: 'keys.move', keys, by, around, factor },
  );
  const drag = { keys, by, around, factor };
  useDesk.setState({ chosenKeys: keys.map((k) => ({ lane: k.lane, at: draggedTo(drag, k) })) });
}

/** Dragging of keys: what is on the way, and how it begins. */
export interface KeyDragging {
  drag: KeyDrag | null;
  /** Takes keys of one time along with all that are chosen; they snap with themselves. */
  hold(e: PointerEvent<HTMLElement>, held: readonly KeyAt[]): void;
  /** Draws the keys that are chosen out by one end of their time; this end snaps. */
  stretch(e: PointerEvent<HTMLElement>, from: number, to: number, end: 'from' | 'to'): void;
}

export function useKeyDrag(scale: TimeScale): KeyDragging {
  const [drag, setDrag] = useState<KeyDrag | null>(null);
  /** @param dragged where the keys are when the one that is held comes to a time */
  const follow = (
    e: PointerEvent<HTMLElement>,
    begun: KeyDrag,
    held: number,
    dragged: (to: number) => Partial<KeyDrag>,
  ) => {
    const times = snapTimes(scale, begun.keys);
    let now = begun;
    const move = (by: number) => {
      const to = snapped(held + by / scale.pace, times, SNAP / scale.pace);
      now = { ...begun, ...dragged(Math.max(0, to)) };
      setDrag(now);
    };
    followPress(e, move, (u) => {
      setDrag(null);
      if (u) dropKeys(now, u.altKey);
    });
  };
  const hold: KeyDragging['hold'] = (e, held) => {
    if (e.button !== 0) return;
    const { chosenKeys } = useDesk.getState();
    if (e.shiftKey) return chooseKeys(held, true);
    const [{ at }] = held;
    const keys = areChosen(chosenKeys, held) ? chosenKeys : held;
    if (keys !== chosenKeys) chooseKeys(held, false);
    follow(e, { keys, ...NO_DRAG }, at, (to) => ({ by: to - at }));
  };
  const stretch: KeyDragging['stretch'] = (e, from, to, end) => {
    const keys = useDesk.getState().chosenKeys;
    const [held, around] = end === 'to' ? [to, from] : [from, to];
    // Keys of one lane never come onto each other: what is left is a hundredth of their time.
    follow(e, { keys, ...NO_DRAG, around }, held, (at) => ({
      factor: Math.max(0.01, (at - around) / (held - around)),
    }));
  };
  return { drag, hold, stretch };
}
