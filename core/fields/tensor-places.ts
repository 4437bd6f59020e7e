/** Where xx yy zz xy yz xz stand among six components, or among nine that go row by row. */
export const tensorPlaces: Readonly<Record<number, readonly number[]>> = {
  6: [0, 1, 2, 3, 4, 5],
  9: [0, 4, 8, 1, 5, 2],
};
