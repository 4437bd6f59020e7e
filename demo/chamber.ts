/** The demo oven: an invented chamber with a fan slot, an exhaust and two racks of tins, on a grid of cubes. */
export const CELL = 0.02;
export const NX = 40;
export const NY = 28;
export const NZ = 36;

/** A block of cells, first and one past the last index along each axis. */
export interface Block {
  x: [number, number];
  y: [number, number];
  z: [number, number];
}

export const tins: Block[] = [11, 23].flatMap((z) =>
  [5, 16, 27].flatMap((x) => [4, 16].map((y): Block => ({ x: [x, x + 8], y: [y, y + 8], z: [z, z + 5] }))),
);

/** Layers of cells right below the tins, where the bars of the racks slow the air. */
export const rackLayers = [10, 22];

/** The slot in the wall x = 0 that blows warm air in, and the exhaust in the wall x = NX. */
export const slot = { y: [7, 21], z: [4, 7] } as const;
export const exhaust = { y: [9, 19], z: [31, 34] } as const;

export const START_TEMPERATURE = 30;
export const SLOT_TEMPERATURE = 230;
export const SLOT_SPEED = 1.6;

export const cellIndex = (i: number, j: number, k: number): number => (k * NY + j) * NX + i;

/** 1 where a cell is inside a tin. */
export function solidCells(): Uint8Array {
  const solid = new Uint8Array(NX * NY * NZ);
  for (const t of tins) {
    for (let k = t.z[0]; k < t.z[1]; k++) {
      for (let j = t.y[0]; j < t.y[1]; j++) solid.fill(1, cellIndex(t.x[0], j, k), cellIndex(t.x[1], j, k));
    }
  }
  return solid;
}
