/** Corner pairs of the edges whose middles are the nodes after the corners, in order. VTK XML node order. */
export const edgeMiddles: Record<string, [number, number][]> = {
  triangle6: [
    [0, 1],
    [1, 2],
    [2, 0],
  ],
  triangle7: [
    [0, 1],
    [1, 2],
    [2, 0],
  ],
  quad8: [
    [0, 1],
    [1, 2],
    [2, 3],
    [3, 0],
  ],
  quad9: [
    [0, 1],
    [1, 2],
    [2, 3],
    [3, 0],
  ],
  tetra10: [
    [0, 1],
    [1, 2],
    [2, 0],
    [0, 3],
    [1, 3],
    [2, 3],
  ],
  pyramid13: [
    [0, 1],
    [1, 2],
    [2, 3],
    [3, 0],
    [0, 4],
    [1, 4],
    [2, 4],
    [3, 4],
  ],
  wedge15: [
    [0, 1],
    [1, 2],
    [2, 0],
    [3, 4],
    [4, 5],
    [5, 3],
    [0, 3],
    [1, 4],
    [2, 5],
  ],
  hexahedron20: [
    [0, 1],
    [1, 2],
    [2, 3],
    [3, 0],
    [4, 5],
    [5, 6],
    [6, 7],
    [7, 4],
    [0, 4],
    [1, 5],
    [2, 6],
    [3, 7],
  ],
};
edgeMiddles.pyramid19 = edgeMiddles.pyramid13;
edgeMiddles.wedge18 = edgeMiddles.wedge15;
edgeMiddles.hexahedron27 = edgeMiddles.hexahedron20;
edgeMiddles.hexahedron24 = edgeMiddles.hexahedron20;
