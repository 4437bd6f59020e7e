/** Points in a grid of small cubes, for finding one near a place. */
export class PlaceIndex {
  private readonly cubes = new Map<number, number[]>();

  /** @param reach points no farther apart than this are near */
  constructor(private readonly reach: number) {}

  add(points: ArrayLike<number>, i: number): void {
    const key = this.key(points[3 * i], points[3 * i + 1], points[3 * i + 2]);
    const list = this.cubes.get(key);
    if (list) list.push(i);
    else this.cubes.set(key, [i]);
  }

  /** An added point near point `i` that is allowed, or -1. */
  near(points: ArrayLike<number>, i: number, allowed: (other: number) => boolean): number {
    const [x, y, z] = [points[3 * i], points[3 * i + 1], points[3 * i + 2]];
    const r = this.reach;
    // A place near the rim of its cube has neighbours in the next one.
    const seen: number[] = [];
    for (const dx of [-r, r])
      for (const dy of [-r, r])
        for (const dz of [-r, r]) {
          const key = this.key(x + dx, y + dy, z + dz);
          if (seen.includes(key)) continue;
          seen.push(key);
          for (const other of this.cubes.get(key) ?? []) {
            const d = Math.hypot(points[3 * other] - x, points[3 * other + 1] - y, points[3 * other + 2] - z);
            if (d <= r && allowed(other)) return other;
          }
        }
    return -1;
  }

  private key(x: number, y: number, z: number): number {
    const size = this.reach * 8;
    const cell = (v: number): number => Math.floor(v / size);
    return (Math.imul(cell(x), 73856093) ^ Math.imul(cell(y), 19349663) ^ Math.imul(cell(z), 83492791)) >>> 0;
  }
}

/** For each point the number of the first point at its place. */
export function placeNumbers(points: ArrayLike<number>, reach: number): Uint32Array {
  const index = new PlaceIndex(reach);
  const out = new Uint32Array(points.length / 3);
  for (let i = 0; i < out.length; i++) {
    const found = index.near(points, i, () => true);
    if (found < 0) index.add(points, i);
    out[i] = found < 0 ? i : found;
  }
  return out;
}
