import type { SeenBox } from './picture-seen.ts';

/** Fields of the grid across a picture: fine enough for a legend, and done at once. */
const ACROSS = 96;
/** More triangles than this are looked at by some of them. */
const MOST_LOOKED_AT = 150_000;

/** Where on a picture there is something of the model. */
export class CoverGrid {
  readonly width = ACROSS;
  readonly height: number;
  private readonly covered: Uint8Array;

  /** @param aspect width over height of the picture */
  constructor(aspect: number) {
    this.height = Math.max(1, Math.round(ACROSS / aspect));
    this.covered = new Uint8Array(this.width * this.height);
  }

  /** @param x from the left, and y from the top, as fractions of the picture */
  point(x: number, y: number): void {
    const [column, row] = [Math.floor(x * this.width), Math.floor(y * this.height)];
    if (column >= 0 && column < this.width && row >= 0 && row < this.height)
      this.covered[row * this.width + column] = 1;
  }

  /**
   * Faces seen on the picture.
   *
   * @param places two fractions a vertex; not a number where it is behind whoever looks
   * @param triangles three vertices each
   */
  faces(places: ArrayLike<number>, triangles: ArrayLike<number>): void {
    const every = 3 * Math.max(1, Math.ceil(triangles.length / 3 / MOST_LOOKED_AT));
    for (let i = 0; i + 2 < triangles.length; i += every)
      this.face(
        ...([0, 1, 2].flatMap((k) => [
          places[2 * triangles[i + k]] * this.width,
          places[2 * triangles[i + k] + 1] * this.height,
        ]) as [number, number, number, number, number, number]),
      );
  }

  /** Rows of the grid, each from its left to its right edge within the face. */
  private face(ax: number, ay: number, bx: number, by: number, cx: number, cy: number): void {
    if (Number.isNaN(ax + ay + bx + by + cx + cy)) return;
    const top = Math.max(0, Math.floor(Math.min(ay, by, cy)));
    const bottom = Math.min(this.height - 1, Math.floor(Math.max(ay, by, cy)));
    const edges = [
      [ax, ay, bx, by],
      [bx, by, cx, cy],
      [cx, cy, ax, ay],
    ];
    for (let row = top; row <= bottom; row++) {
      let [left, right] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
      for (const [x0, y0, x1, y1] of edges) {
        const [from, to] = [Math.max(row, Math.min(y0, y1)), Math.min(row + 1, Math.max(y0, y1))];
        if (from > to) continue;
        for (const y of [from, to]) {
          const x = y1 === y0 ? x0 : x0 + ((y - y0) / (y1 - y0)) * (x1 - x0);
          left = Math.min(left, x);
          right = Math.max(right, x);
        }
        if (y1 === y0) [left, right] = [Math.min(left, x1), Math.max(right, x1)];
      }
      const first = Math.max(0, Math.floor(left));
      const last = Math.min(this.width - 1, Math.floor(right));
      if (first <= last) this.covered.fill(1, row * this.width + first, row * this.width + last + 1);
    }
  }

  /** Share of a box with something of the model in it. */
  shareIn({ x, y, width, height }: SeenBox): number {
    const [left, top] = [Math.max(0, Math.floor(x * this.width)), Math.max(0, Math.floor(y * this.height))];
    const right = Math.min(this.width, Math.ceil((x + width) * this.width));
    const bottom = Math.min(this.height, Math.ceil((y + height) * this.height));
    let [n, all] = [0, 0];
    for (let row = top; row < bottom; row++)
      for (let column = left; column < right; column++, all++) n += this.covered[row * this.width + column];
    return all > 0 ? n / all : 0;
  }
}
