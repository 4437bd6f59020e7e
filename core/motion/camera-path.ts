import { add, lengthOf, subtract, times, type Vector } from '../model/vectors.ts';
import { cameraBetween } from '../scene/camera-moves.ts';
import type { Camera } from '../scene/document.ts';

/** Two places nearer than this, as a share of the longest way, are one. */
const SAME = 1e-9;
/** Pieces of which the length of a part of the path is summed. */
const PIECES = 64;

const mixed = (a: Vector, b: Vector, from: number, to: number, at: number): Vector =>
  add(times(a, (to - at) / (to - from)), times(b, (at - from) / (to - from)));

/**
 * A curve through places in their order, without loops or cusps between them: a centripetal Catmull-Rom spline (Yuksel,
 * Schaefer and Keyser, "Parameterization and applications of Catmull-Rom curves", 2011), by the pyramid of Barry and
 * Goldman (1988). A curve that ends where it began passes there as anywhere else.
 */
export class SmoothCurve {
  /** Square roots of the lengths between places: how long the parameter is there. */
  private readonly knots: number[];
  private readonly closed: boolean;

  constructor(private readonly places: readonly Vector[]) {
    const chords = places.slice(1).map((p, i) => lengthOf(subtract(p, places[i])));
    const longest = Math.max(0, ...chords);
    this.knots = chords.map((chord) => (chord > SAME * longest ? Math.sqrt(chord) : 0));
    const gap = places.length > 3 ? lengthOf(subtract(places[0], places[places.length - 1])) : Infinity;
    this.closed = gap <= SAME * longest;
  }

  /**
   * @param part which of the ways between two places, from 0
   * @param share of that way, 0 at its beginning
   */
  at(part: number, share: number): Vector {
    const [b, c] = [this.places[part], this.places[part + 1]];
    const length = this.knots[part];
    if (length === 0) return b;
    const before = this.beside(part, -1);
    const behind = this.beside(part, 1);
    // At an end the place beyond it lies as far on in the same direction.
    const a = before ? before.place : subtract(times(b, 2), c);
    const d = behind ? behind.place : subtract(times(c, 2), b);
    const t1 = before?.length ?? length;
    const t2 = t1 + length;
    const t3 = t2 + (behind?.length ?? length);
    const t = t1 + share * length;
    const ab = mixed(a, b, 0, t1, t);
    const bc = mixed(b, c, t1, t2, t);
    const cd = mixed(c, d, t2, t3, t);
    return mixed(mixed(ab, bc, 0, t2, t), mixed(bc, cd, t1, t3, t), t1, t2, t);
  }

  /** The place before or behind a way, with how long the way there is; null where there is none. */
  private beside(part: number, side: -1 | 1): { place: Vector; length: number } | null {
    const ways = this.knots.length;
    let other = part + side;
    if (this.closed) other = (other + ways) % ways;
    const length = this.knots[other] ?? 0;
    return length > 0 ? { place: this.places[side < 0 ? other : other + 1], length } : null;
  }
}

/** A camera on its way through its keys: in one curve, as does what it looks at, or turning at each of them. */
export class CameraPath {
  private readonly curves: { position: SmoothCurve; target: SmoothCurve } | null;
  private known: { of: 'position' | 'target'; lengths: number[] } | null = null;

  constructor(
    private readonly cameras: readonly Camera[],
    smooth: boolean,
  ) {
    this.curves = smooth
      ? {
          position: new SmoothCurve(cameras.map((c) => c.position)),
          target: new SmoothCurve(cameras.map((c) => c.target)),
        }
      : null;
  }

  /**
   * @param part which of the ways between two keys, from 0
   * @param share of that way, 0 at its beginning
   */
  at(part: number, share: number): Camera {
    const between = cameraBetween(this.cameras[part], this.cameras[part + 1], share);
    if (!this.curves) return between;
    const { position, target } = this.curves;
    return { ...between, position: position.at(part, share), target: target.at(part, share) };
  }

  /** At a share of the length of the whole way; where the camera only turns, of the way of what it looks at. */
  atLength(share: number): Camera {
    const { of, lengths } = this.measured();
    const last = lengths.length - 2;
    const whole = lengths[last + 1];
    if (whole === 0) return this.at(Math.min(last, Math.floor(share * (last + 1))), (share * (last + 1)) % 1);
    const length = Math.min(whole, Math.max(0, share * whole));
    let part = 0;
    while (part < last && lengths[part + 1] < length) part++;
    return this.at(part, this.shareAtLength(part, of, length - lengths[part]));
  }

  /** Where each way begins along the whole, and how long that is. */
  private measured(): { of: 'position' | 'target'; lengths: number[] } {
    if (this.known) return this.known;
    const along = (of: 'position' | 'target'): number[] => {
      const out = [0];
      for (let part = 0; part + 1 < this.cameras.length; part++)
        out.push(out[part] + this.pieces(part, of).reduce((sum, piece) => sum + piece, 0));
      return out;
    };
    const own = along('position');
    const moves = own[own.length - 1] > 0;
    return (this.known = moves
      ? { of: 'position', lengths: own }
      : { of: 'target', lengths: along('target') });
  }

  private pieces(part: number, of: 'position' | 'target'): number[] {
    const places = Array.from({ length: PIECES + 1 }, (_, i) => this.at(part, i / PIECES)[of]);
    return places.slice(1).map((place, i) => lengthOf(subtract(place, places[i])));
  }

  /** The share of a way at which so much of its length is behind. */
  private shareAtLength(part: number, of: 'position' | 'target', length: number): number {
    let passed = 0;
    for (const [i, piece] of this.pieces(part, of).entries()) {
      if (passed + piece >= length && piece > 0) return (i + (length - passed) / piece) / PIECES;
      passed += piece;
    }
    return 1;
  }
}
