/** A name without case and signs. */
export const lettersOf = (name: string): string => name.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '');

/** The same but for case and signs, or the only one that has it in its name or is had. */
export function likelyName(name: string, others: readonly string[]): string | null {
  const own = lettersOf(name);
  const same = others.find((o) => lettersOf(o) === own);
  if (same) return same;
  const like = others.filter((o) => isWithin(lettersOf(o), own) || isWithin(own, lettersOf(o)));
  return like.length === 1 ? like[0] : null;
}

/** At the beginning or the end: within a name a few letters mean nothing, and a single one means nothing anywhere. */
const isWithin = (name: string, part: string): boolean =>
  part.length > 1 && (name.startsWith(part) || name.endsWith(part));
