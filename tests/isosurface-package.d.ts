declare module 'isosurface' {
  interface Surface {
    positions: number[][];
    cells: number[][];
  }
  export function marchingCubes(
    size: [number, number, number],
    f: (x: number, y: number, z: number) => number,
    bounds: [number[], number[]],
  ): Surface;
}
