import { endsOfNumbers, numberIn, numbersIn } from './column-numbers.ts';
import type { ResponsePlot } from './response-plot.ts';
import type { RunColumn } from './run-table.ts';

/** A run above the plane of two inputs. */
export interface SurfacePoint {
  row: number;
  x: number;
  y: number;
  z: number;
  /** What the surface says there. */
  fitted: number;
}

/** What is fitted over two inputs, with the runs it was fitted to. */
export interface ResponseSurface {
  x: RunColumn;
  y: RunColumn;
  z: RunColumn;
  /** Places of the net along both inputs, and its heights: a row for each place along y. */
  xs: number[];
  ys: number[];
  heights: number[][];
  /** Standard deviations there; null where the fit cannot tell. */
  off: number[][] | null;
  points: SurfacePoint[];
  ends: { x: [number, number]; y: [number, number]; z: [number, number] };
}

/** Places of the net along each input. */
const PLACES = 31;

/**
 * The fit of a plot as a surface over the input that it runs along and the one that makes its curves.
 *
 * @param second the input that makes curves; null where none does
 * @returns why there is none, in words
 */
export function responseSurface(
  { fit, trouble, output, across, rows, at, curves }: ResponsePlot,
  second: RunColumn | null,
): ResponseSurface | string {
  if (!second?.numeric) return 'A surface needs a second input of numbers: choose what makes curves.';
  if (!fit) return trouble ?? 'Choose how it is fitted: then there is a surface.';
  const rest = typeof at === 'number' ? [at] : [];
  const shown = new Set(curves.flatMap((c) => c.points.map((p) => p.row)));
  const points = rows
    .filter((row) => shown.has(row))
    .map((row): SurfacePoint => {
      const [x, y, z] = [numberIn(across, row), numberIn(second, row), numberIn(output, row)];
      return { row, x, y, z, fitted: fit.surface.at([x, y, ...rest]) };
    })
    .filter(({ x, y, z }) => [x, y, z].every(Number.isFinite));
  const [xEnds, yEnds] = [endsOfNumbers(numbersIn(across, rows)), endsOfNumbers(numbersIn(second, rows))];
  if (!(xEnds[1] > xEnds[0] && yEnds[1] > yEnds[0]))
    return 'A surface needs two inputs that both vary: one of these is the same in all runs shown.';
  const [xs, ys] = [placesBetween(xEnds), placesBetween(yEnds)];
  const over = (value: (place: number[]) => number): number[][] =>
    ys.map((y) => xs.map((x) => value([x, y, ...rest])));
  const heights = over((place) => fit.surface.at(place));
  const { deviation } = fit.surface;
  const z = endsOfNumbers([...heights.flat(), ...points.map((p) => p.z)]);
  return {
    x: across,
    y: second,
    z: output,
    xs,
    ys,
    heights,
    off: deviation ? over((place) => deviation(place)) : null,
    points,
    ends: { x: xEnds, y: yEnds, z: z[1] > z[0] ? z : [z[0] - 0.5, z[1] + 0.5] },
  };
}

const placesBetween = ([low, high]: [number, number]): number[] =>
  Array.from({ length: PLACES }, (_, i) => low + ((high - low) * i) / (PLACES - 1));

/** From where a box of three axes is looked at, in degrees. */
export interface BoxView {
  /** Around the upright axis. */
  turn: number;
  /** Above the ground, from 0 (from the side) to 90 (from above). */
  rise: number;
}

/** A place in the picture of a box, and how near it is: larger is nearer. */
export interface SeenPlace {
  x: number;
  y: number;
  near: number;
}

/**
 * Projects the box from −1 to 1 along all axes into a picture from −1 to 1, upwards as it stands; parallel lines stay parallel, so
 * that lengths along an axis compare.
 *
 * @param place along x, y and z, from −1 to 1
 */
export function seenInBox([x, y, z]: readonly [number, number, number], { turn, rise }: BoxView): SeenPlace {
  const [ct, st] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
  const [cr, sr] = [Math.cos((rise * Math.PI) / 180), Math.sin((rise * Math.PI) / 180)];
  // The box is turned, then looked at from above by the rise.
  const [across, deep] = [ct * x - st * y, st * x + ct * y];
  // A corner lies at most the root of three from the middle.
  const scale = 1 / Math.sqrt(3);
  return { x: scale * across, y: scale * (cr * z + sr * deep), near: sr * z - cr * deep };
}

/** A value along an axis as a place from −1 to 1. */
export const inBox = (value: number, [low, high]: readonly [number, number]): number =>
  (2 * (value - low)) / (high - low) - 1;
