/** A list in pieces of so many elements, the last one with what is left. */
export const inPieces = <T>(all: readonly T[], most: number): T[][] =>
  Array.from({ length: Math.ceil(all.length / most) }, (_, i) => all.slice(i * most, (i + 1) * most));
