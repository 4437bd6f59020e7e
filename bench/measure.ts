/** The middle one of several figures. */
export const middle = (figures: readonly number[]): number =>
  [...figures].sort((a, b) => a - b)[Math.floor(figures.length / 2)];

/** Middle of several timings in milliseconds, after one to warm up. */
export function timed(action: () => unknown, rounds = 5): number {
  action();
  const times = Array.from({ length: rounds }, () => {
    const began = performance.now();
    action();
    return performance.now() - began;
  });
  return middle(times);
}

/** The same for work that is waited for. */
export async function timedAsync(action: () => unknown, rounds = 5): Promise<number> {
  await action();
  const times: number[] = [];
  for (let r = 0; r < rounds; r++) {
    const began = performance.now();
    await action();
    times.push(performance.now() - began);
  }
  return middle(times);
}

/** One line of the table: ours against the yardstick, and how they relate. */
export function compare(name: string, ours: number, yardstick: number, goal: string, unit = 'ms'): void {
  const ratio = ours / yardstick;
  console.log(
    `${name.padEnd(58)} ${ours.toFixed(1).padStart(9)} ${unit} ${yardstick.toFixed(1).padStart(9)} ${unit}   x ${ratio.toFixed(2).padStart(6)}   ${goal}`,
  );
}
