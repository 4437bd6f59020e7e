/** The package is written in a way that our compiler's settings do not take; this is what is used of it. */
export class Solver {
  constructor(equations: number);
  absoluteTolerance: number;
  relativeTolerance: number;
  solve(
    slope: (t: number, y: number[]) => number[],
    from: number,
    start: number[],
    to: number,
  ): { y: number[] };
}
