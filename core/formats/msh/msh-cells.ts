/**
 * Element types of MSH files (numbers of the public format description): cell type, nodes, and, where the order of
 * nodes differs from ours, which node of the file stands at each place of ours.
 */
export const mshElements: Record<number, { type: number; nodes: number; order?: number[] }> = {
  1: { type: 3, nodes: 2 },
  2: { type: 5, nodes: 3 },
  3: { type: 9, nodes: 4 },
  4: { type: 10, nodes: 4 },
  5: { type: 12, nodes: 8 },
  6: { type: 13, nodes: 6 },
  7: { type: 14, nodes: 5 },
  8: { type: 21, nodes: 3 },
  9: { type: 22, nodes: 6 },
  10: { type: 28, nodes: 9 },
  11: { type: 24, nodes: 10, order: [0, 1, 2, 3, 4, 5, 6, 7, 9, 8] },
  12: {
    type: 29,
    nodes: 27,
    order: [0, 1, 2, 3, 4, 5, 6, 7, 8, 11, 13, 9, 16, 18, 19, 17, 10, 12, 14, 15, 22, 23, 21, 24, 20, 25, 26],
  },
  13: { type: 32, nodes: 18, order: [0, 1, 2, 3, 4, 5, 6, 9, 7, 12, 14, 13, 8, 10, 11, 15, 17, 16] },
  15: { type: 1, nodes: 1 },
  16: { type: 23, nodes: 8 },
  17: { type: 25, nodes: 20, order: [0, 1, 2, 3, 4, 5, 6, 7, 8, 11, 13, 9, 16, 18, 19, 17, 10, 12, 14, 15] },
  18: { type: 26, nodes: 15, order: [0, 1, 2, 3, 4, 5, 6, 9, 7, 12, 14, 13, 8, 10, 11] },
  19: { type: 27, nodes: 13, order: [0, 1, 2, 3, 4, 5, 8, 10, 6, 7, 9, 11, 12] },
};
