import { roundStep } from '#core/model/round-step.ts';
/** Width of the names before the lanes, in pixels. */
export const NAMES = 224;

/** How the time of a film lies along the width of its lanes. */
export interface TimeScale {
  /** Pixels a second. */
  pace: number;
  /** The time at the left end. */
  left: number;
  width: number;
}

export interface TimeView {
  /** How many times as long as the room it has; 1 shows all of the film. */
  zoom: number;
  /** The time at the left end, in seconds. */
  left: number;
}

/** Room on both sides of a film, so that its first and last keys can be taken hold of, in pixels. */
const SIDE = 10;
export const MOST_ZOOM = 400;

export function timeScale(seconds: number, width: number, { zoom, left }: TimeView): TimeScale {
  const pace = (Math.max(1, width - 2 * SIDE) * zoom) / seconds;
  const shown = (width - 2 * SIDE) / pace;
  const first = Math.min(Math.max(0, left), Math.max(0, seconds - shown));
  return { pace, left: first - SIDE / pace, width };
}

export const placeOfTime = ({ pace, left }: TimeScale, seconds: number): number => (seconds - left) * pace;
export const timeOfPlace = ({ pace, left }: TimeScale, place: number): number => left + place / pace;

/** Comes nearer to a time, or goes away from it, which keeps its place. */
export function zoomedAt(view: TimeView, seconds: number, at: number, factor: number): TimeView {
  const zoom = Math.min(MOST_ZOOM, Math.max(1, view.zoom * factor));
  const shown = seconds / zoom;
  const share = (at - view.left) / (seconds / view.zoom);
  return { zoom, left: Math.min(Math.max(0, at - share * shown), seconds - shown) };
}

/** Seconds from one mark of a ruler to the next, so that they stand no nearer than so many pixels. */
export function rulerStep({ pace }: TimeScale, apart: number): number {
  const least = apart / pace;
  const step = Number(roundStep(least).toPrecision(6));
  // Of seconds beyond these there are quarters and halves of minutes.
  return step > 10 ? ([15, 30, 60, 120, 300, 600, 1800, 3600].find((s) => s >= least) ?? step) : step;
}

/** A time as the reel says it: `2.40 s`, `1:05.0`. */
export function sayFilmTime(seconds: number, step = 0.01): string {
  const digits = Math.min(3, Math.max(0, Math.ceil(-Math.log10(step) - 1e-9)));
  if (seconds < 60) return seconds.toFixed(digits);
  const minutes = Math.floor(seconds / 60);
  const rest = (seconds - 60 * minutes).toFixed(digits);
  return `${minutes}:${rest.padStart(digits > 0 ? digits + 3 : 2, '0')}`;
}

/** The nearest of some times to one, where one is near enough; else the time itself. */
export function snapped(seconds: number, to: readonly number[], within: number): number {
  let best = seconds;
  let near = within;
  for (const time of to)
    if (Math.abs(time - seconds) < near) {
      near = Math.abs(time - seconds);
      best = time;
    }
  return best;
}
