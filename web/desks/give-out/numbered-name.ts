/** The name of a picture of a film among the others, without its ending; they are counted from 0. */
export const numberedName = (n: number): string => `picture-${String(n + 1).padStart(4, '0')}`;
