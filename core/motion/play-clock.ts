/**
 * Which step is due while playing: steps follow each other at `rate` per second from the moment play began, and go
 * round at the end. Being late skips steps; it never queues them.
 *
 * @param elapsed seconds since play began
 * @param from the step play began at
 */
export function dueStep(elapsed: number, from: number, rate: number, steps: number): number {
  if (steps <= 1) return 0;
  return (from + Math.floor(Math.max(0, elapsed) * rate)) % steps;
}

/** Indices `first, first + every, ...` up to and including `last`. */
export function stepRange(first: number, last: number, every: number): number[] {
  const out: number[] = [];
  for (let i = Math.max(0, first); i <= last; i += Math.max(1, Math.floor(every))) out.push(i);
  return out;
}
