import type { ArrowMark } from '#core/model/mark.ts';

/** A shape of length one that points along z, from its beginning at zero. */
export interface ArrowShape {
  positions: Float32Array;
  /** Of flat shapes drawn with lines, to which side of their line a vertex goes. */
  normals: Float32Array;
  triangles: number[];
  /** How it is drawn: as a body; turned towards whoever looks; the same with lines of a width on the picture. */
  drawn: 'body' | 'flat' | 'lines';
}

const AROUND = 10;
const SHAFT = 0.045;
const HEAD = 0.13;
/** Where the head begins. */
const NECK = 0.66;

class Builder {
  private readonly positions: number[] = [];
  private readonly normals: number[] = [];
  private readonly triangles: number[] = [];

  vertex(place: readonly number[], normal: readonly number[]): number {
    this.positions.push(...place);
    this.normals.push(...normal);
    return this.positions.length / 3 - 1;
  }

  triangle(a: number, b: number, c: number): void {
    this.triangles.push(a, b, c);
  }

  /** A band around the axis, from one radius and height to another, with the slope of its normal at both. */
  band(
    from: readonly [r: number, z: number],
    to: readonly [r: number, z: number],
    up: readonly [number, number],
  ): void {
    const ring = ([r, z]: readonly [number, number], rise: number): number[] =>
      Array.from({ length: AROUND }, (_, i) => {
        const angle = (2 * Math.PI * i) / AROUND;
        const [c, s] = [Math.cos(angle), Math.sin(angle)];
        const length = Math.hypot(1, rise);
        return this.vertex([r * c, r * s, z], [c / length, s / length, rise / length]);
      });
    const [low, high] = [ring(from, up[0]), ring(to, up[1])];
    for (let i = 0; i < AROUND; i++) {
      const j = (i + 1) % AROUND;
      this.triangle(low[i], low[j], high[j]);
      this.triangle(low[i], high[j], high[i]);
    }
  }

  /** A disc or ring across the axis that looks back. */
  lid(inner: number, outer: number, z: number): void {
    const ring = (r: number): number[] =>
      Array.from({ length: AROUND }, (_, i) => {
        const angle = (2 * Math.PI * i) / AROUND;
        return this.vertex([r * Math.cos(angle), r * Math.sin(angle), z], [0, 0, -1]);
      });
    const [a, b] = [ring(inner), ring(outer)];
    for (let i = 0; i < AROUND; i++) {
      const j = (i + 1) % AROUND;
      this.triangle(a[i], b[j], b[i]);
      this.triangle(a[i], a[j], b[j]);
    }
  }

  /** A line in the plane of x and z, whose width the shader gives it. */
  stroke(from: readonly [x: number, z: number], to: readonly [x: number, z: number]): void {
    const [dx, dz] = [to[0] - from[0], to[1] - from[1]];
    const length = Math.hypot(dx, dz);
    const side = [-dz / length, 0, dx / length];
    const ends = [from, to].map(([x, z]) =>
      [1, -1].map((s) =>
        this.vertex(
          [x, 0, z],
          side.map((v) => s * v),
        ),
      ),
    );
    this.triangle(ends[0][0], ends[0][1], ends[1][1]);
    this.triangle(ends[0][0], ends[1][1], ends[1][0]);
  }

  polygon(...corners: readonly (readonly [x: number, z: number])[]): void {
    const all = corners.map(([x, z]) => this.vertex([x, 0, z], [0, 1, 0]));
    for (let i = 1; i + 1 < all.length; i++) this.triangle(all[0], all[i], all[i + 1]);
  }

  made(drawn: ArrowShape['drawn']): ArrowShape {
    return {
      positions: Float32Array.from(this.positions),
      normals: Float32Array.from(this.normals),
      triangles: this.triangles,
      drawn,
    };
  }
}

function solid(): ArrowShape {
  const b = new Builder();
  b.lid(0, SHAFT, 0);
  b.band([SHAFT, 0], [SHAFT, NECK], [0, 0]);
  b.lid(SHAFT, HEAD, NECK);
  const rise = HEAD / (1 - NECK);
  b.band([HEAD, NECK], [0, 1], [rise, rise]);
  return b.made('body');
}

/** Thick in front, thin behind. */
function comet(): ArrowShape {
  const b = new Builder();
  const [widest, at] = [0.1, 0.88];
  b.band([0, 0], [widest, at], [-widest / at, 0]);
  const steps = 4;
  for (let i = 0; i < steps; i++) {
    const [low, high] = [i, i + 1].map((k) => {
      const angle = (Math.PI / 2) * (k / steps);
      return {
        r: widest * Math.cos(angle),
        z: at + (1 - at) * Math.sin(angle),
        rise: Math.min(50, Math.tan(angle) * (widest / (1 - at))),
      };
    });
    b.band([low.r, low.z], [high.r, high.z], [low.rise, high.rise]);
  }
  return b.made('body');
}

function flat(): ArrowShape {
  const b = new Builder();
  const [shaft, head] = [0.055, 0.16];
  b.polygon([-shaft, 0], [shaft, 0], [shaft, NECK], [-shaft, NECK]);
  b.polygon([-head, NECK], [head, NECK], [0, 1]);
  return b.made('flat');
}

function lines(): ArrowShape {
  const b = new Builder();
  b.stroke([0, 0], [0, 1]);
  b.stroke([-0.12, 0.76], [0, 1]);
  b.stroke([0.12, 0.76], [0, 1]);
  return b.made('lines');
}

/** The shape of each form. */
export const arrowShapes: Record<ArrowMark['form'], ArrowShape> = {
  solid: solid(),
  flat: flat(),
  line: lines(),
  comet: comet(),
};
