import { ReadError } from '../model/read-error.ts';

/** The work grows with the third power of the runs: so many take some seconds. */
const MOST = 1000;

/** @throws ReadError where every run is weighed against every other and that would take too long */
export function ensureFewEnough(runs: number): void {
  if (runs > MOST)
    throw new ReadError(
      `this fit weighs every run against every other, which takes too long for ${runs} of them`,
      'the response',
      `Choose a polynomial, or at most ${MOST} runs.`,
    );
}
