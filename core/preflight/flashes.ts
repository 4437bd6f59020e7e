/** Share of the largest luminance that a change must have to count, and above which dark nothing flashes. */
const CHANGE = 0.1;
const DARK = 0.8;

/**
 * General flashes in the luminances of pictures, one after the other: pairs of opposing changes of at least a tenth, the
 * darker below 0.8 (WCAG 2.2, success criterion 2.3.1, "general flash").
 *
 * @param luminances relative, 0..1
 * @param rate pictures a second
 * @returns the most flashes there are within one second
 */
export function mostFlashes(luminances: readonly number[], rate: number): number {
  const changes: { at: number; up: boolean }[] = [];
  let turn = luminances[0] ?? 0;
  let way = 0;
  let end = turn;
  for (const [i, l] of luminances.entries()) {
    const goesOn = way === 0 || Math.sign(l - end) === way || l === end;
    if (!goesOn) [turn, way] = [end, -way];
    else if (way === 0) way = Math.sign(l - turn);
    end = l;
    const counted = Math.abs(end - turn) >= CHANGE && Math.min(end, turn) < DARK;
    if (counted && changes.at(-1)?.up !== way > 0) changes.push({ at: i, up: way > 0 });
  }
  let most = 0;
  for (const [i, { at }] of changes.entries()) {
    const within = changes.slice(i).filter((c) => c.at - at < rate).length;
    most = Math.max(most, Math.floor(within / 2));
  }
  return most;
}

/** What WCAG 2.2 allows within one second. */
export const MOST_FLASHES = 3;
