import { type PointerEvent, useState } from 'react';
import { useDesk } from '#web/desks/stage/desk-store.ts';
import { chooseKeys, followPress, isChosen } from './lane-drag.ts';
import { keysInBox, type LaneBox, type LaneRow } from './lane-rows.ts';
import { NAMES, type TimeScale, timeOfPlace } from './time-scale.ts';

/** A box drawn over lanes chooses the keys within, with Shift beside those that are chosen; a mere press chooses none. */
export function useLaneBox(
  scale: TimeScale,
  rows: readonly LaneRow[],
): { box: LaneBox | null; press(e: PointerEvent<HTMLElement>): void } {
  const [box, setBox] = useState<LaneBox | null>(null);
  const press = (e: PointerEvent<HTMLElement>) => {
    const { left, top } = e.currentTarget.getBoundingClientRect();
    const [x, y] = [e.clientX - left - NAMES, e.clientY - top];
    if (e.button !== 0 || x < 0 || (e.target as Element).closest('button')) return;
    const before = e.shiftKey ? useDesk.getState().chosenKeys : [];
    let now: LaneBox | null = null;
    const move = (by: number, { clientY }: globalThis.PointerEvent) => {
      const down = clientY - top;
      now = {
        from: timeOfPlace(scale, Math.max(0, Math.min(x, x + by))),
        to: timeOfPlace(scale, Math.min(scale.width, Math.max(x, x + by))),
        above: Math.max(0, Math.min(y, down)),
        below: Math.max(y, down),
      };
      setBox(now);
      const within = keysInBox(rows, now).filter((k) => !isChosen(before, k));
      useDesk.setState({ chosenKeys: [...before, ...within] });
    };
    followPress(e, move, (u) => {
      setBox(null);
      if (u && !now && !u.shiftKey) chooseKeys([], false);
    });
  };
  return { box, press };
}
