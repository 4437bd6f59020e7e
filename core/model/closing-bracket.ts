import { QUOTED } from './quoted-text.ts';

/**
 * The place behind the bracket that closes the one at `from`; what stands between quotation marks does not count. Null where it is
 * never closed.
 *
 * @param pair the opening bracket and the closing one
 */
export function behindBracket(text: string, from: number, pair: '()' | '{}' = '()'): number | null {
  let depth = 0;
  const pieces = new RegExp(`${QUOTED}|[${pair}]`, 'g');
  pieces.lastIndex = from;
  for (let found = pieces.exec(text); found; found = pieces.exec(text)) {
    if (found[0] === pair[0]) depth++;
    else if (found[0] === pair[1]) depth--;
    if (depth === 0) return pieces.lastIndex;
  }
  return null;
}
