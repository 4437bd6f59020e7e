/** How far long work is, on a line of its own that is written over; nothing where no one sees it. */
export function tellProgress({ done, remaining }: { done: number; remaining: number | null }): void {
  if (!process.stderr.isTTY) return;
  const left = remaining === null ? '' : `, about ${Math.ceil(remaining)} s to go`;
  process.stderr.write(`\r${Math.round(100 * done)} %${left}   ${done >= 1 ? '\r' : ''}`);
}
