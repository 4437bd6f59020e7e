/**
 * The place behind the bracket that closes the one at `from`; what stands between quotation marks does not count. Null where it is
 * never closed.
 */
export function behindBracket(text: string, from: number): number | null {
  let depth = 0;
  const pieces = /"(?:\\.|[^"\\])*"|[()]/g;
  pieces.lastIndex = from;
  for (let found = pieces.exec(text); found; found = pieces.exec(text)) {
    if (found[0] === '(') depth++;
    else if (found[0] === ')') depth--;
    if (depth === 0) return pieces.lastIndex;
  }
  return null;
}
