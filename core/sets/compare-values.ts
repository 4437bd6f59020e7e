import type { RunValue } from './run-table.ts';

const inWords = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/**
 * Numbers by their size, texts as one reads them: `case 9` before `case 10`. Who says nothing stands last either way.
 *
 * @param down the largest first
 */
export function compareValues(a: RunValue, b: RunValue, down = false): number {
  if (a === null || b === null) return Number(a === null) - Number(b === null);
  const order =
    typeof a === 'number' && typeof b === 'number' ? a - b : inWords.compare(String(a), String(b));
  return down ? -order : order;
}
