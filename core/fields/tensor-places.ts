/** Where xx yy zz xy yz xz stand among six components, or among nine that go row by row. */
export const tensorPlaces: Readonly<Record<number, readonly number[]>> = {
  6: [0, 1, 2, 3, 4, 5],
  9: [0, 4, 8, 1, 5, 2],
};

/** For xx yy zz xy yz xz of the symmetric part of a tensor: which two of its nine components, row by row, each is the mean of. */
export const symmetricPairs: readonly (readonly [number, number])[] = [
  [0, 0],
  [4, 4],
  [8, 8],
  [1, 3],
  [5, 7],
  [2, 6],
];
