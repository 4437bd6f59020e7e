import { type CurveData, curveAt } from './curve-data.ts';

/** Places as far apart as most; what is within this of even is even. */
const EVEN = 1e-3;

export interface EvenCurve {
  x: Float64Array;
  y: Float64Array;
  /** From one place to the next. */
  step: number;
  /** Whether it was so already. */
  asItWas: boolean;
}

/** A curve at places all as far apart, as many as it has; without gaps. What stands between two runs straight. */
export function evenPlaces(curve: CurveData): EvenCurve {
  const kept = Array.from(curve.x.keys()).filter((i) => !Number.isNaN(curve.y[i]));
  if (kept.length < 4) throw new Error('So few places cannot be filtered. Choose a curve of at least 4.');
  const x = Float64Array.from(kept, (i) => curve.x[i]);
  const y = Float64Array.from(kept, (i) => curve.y[i]);
  const n = x.length;
  const step = (x[n - 1] - x[0]) / (n - 1);
  if (!(step > 0)) throw new Error('All of it stands at one place. Choose another curve.');
  let asItWas = true;
  for (let i = 0; asItWas && i < n; i++) asItWas = Math.abs(x[i] - x[0] - i * step) <= EVEN * step;
  if (asItWas) return { x, y, step, asItWas };
  const even = Float64Array.from({ length: n }, (_, i) => Math.min(x[n - 1], x[0] + i * step));
  return { x: even, y: even.map((at) => curveAt({ x, y }, at)), step, asItWas };
}

/** What is told of a curve whose places were made even. */
export const sayEven = ({ asItWas }: EvenCurve): string[] =>
  asItWas ? [] : ['Its places were uneven and were taken evenly.'];
