/**
 * Numbers from 0 to 1 that look random and are the same every time (the generator "mulberry32", in the public domain; from
 * memory), so that what is spread by chance stays where it is.
 */
export function randomNumbers(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** Whole numbers in an order by chance that is the same every time (Fisher and Yates 1938, as in Durstenfeld 1964). */
export function shuffled(numbers: Uint32Array, seed = 1): Uint32Array {
  const out = numbers.slice();
  const random = randomNumbers(seed);
  for (let i = out.length - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1));
    const kept = out[i];
    out[i] = out[j];
    out[j] = kept;
  }
  return out;
}
