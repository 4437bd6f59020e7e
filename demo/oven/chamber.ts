/**
 * The demo oven: an invented chamber on a grid of cubes, with a slot that blows hot air in below, a fan that draws it
 * out above, a glass in the door, and two racks of tins with loaves.
 */
export const CELL = 0.0125;
export const NX = 64;
export const NY = 45;
export const NZ = 60;

/** A block of cells, first and one past the last index along each axis. */
export interface Block {
  x: [number, number];
  y: [number, number];
  z: [number, number];
}

/** What fills a cell. */
export const AIR = 0;
export const TIN = 1;
export const LOAF = 2;

/** Cells from the bottom of a tin to its rim, and how far a loaf rises above it in its middle. */
const RIM = 7;
const RISE = 3;
const SIDE = 13;

export const tins: Block[] = [17, 36].flatMap((z) =>
  [8, 26, 44].flatMap((x) =>
    [6, 26].map((y): Block => ({ x: [x, x + SIDE], y: [y, y + SIDE], z: [z, z + RIM] })),
  ),
);

/** Layers of cells right below the tins, where the bars of the racks slow the air. */
export const rackLayers = [16, 35];

/** In the wall x = 0: the slot, and the opening of the fan. */
export const slot = { y: [9, 36], z: [5, 10] } as const;
export const fan = { y: [15, 30], z: [40, 55] } as const;
/** The glass in the door, the wall y = 0. */
export const glass = { x: [12, 52], z: [12, 52] } as const;

export const START_TEMPERATURE = 30;
export const SLOT_TEMPERATURE = 230;
export const SLOT_SPEED = 0.9;

export const cellIndex = (i: number, j: number, k: number): number => (k * NY + j) * NX + i;

/** Height of the dome of a loaf above the rim of its tin, in cells, at a place across it, -1..1 both ways. */
export const domeHeight = (a: number, b: number): number =>
  RISE * Math.sqrt(Math.max(0, (1 - a * a) * (1 - b * b)));

/** What fills each cell: air, tin or loaf. */
export function filling(): Uint8Array {
  const solid = new Uint8Array(NX * NY * NZ);
  for (const t of tins)
    for (let k = t.z[0]; k < t.z[1] + RISE; k++)
      for (let j = t.y[0]; j < t.y[1]; j++)
        for (let i = t.x[0]; i < t.x[1]; i++) {
          const [a, b] = [(2 * (i - t.x[0] + 0.5)) / SIDE - 1, (2 * (j - t.y[0] + 0.5)) / SIDE - 1];
          const wall = i === t.x[0] || i === t.x[1] - 1 || j === t.y[0] || j === t.y[1] - 1 || k === t.z[0];
          const below = k < t.z[1] ? true : k + 0.5 - t.z[1] < domeHeight(a, b);
          if (k < t.z[1] && wall) solid[cellIndex(i, j, k)] = TIN;
          else if (below && !wall) solid[cellIndex(i, j, k)] = LOAF;
        }
  return solid;
}
