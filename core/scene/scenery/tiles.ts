import { phrasesOf } from '../../language/phrase.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { bodyOf, madeKind, type PieceBody } from './scenery-kind.ts';
import { joined, type Solid, shifted, tile } from './solids.ts';

interface Tiled {
  /** Whether they stand as a wall, or lie. */
  standing: boolean;
  /** Share of an edge that is joint. */
  joint: number;
}

const p = phrasesOf<Tiled>();

/** More tiles than this become larger ones. */
const MOST = 2500;

/** A wall or a floor of glazed tiles with joints between them. */
export const tiles = madeKind({
  id: 'tiles',
  offered: 'Tiles',
  purpose: 'a tiled wall, or a tiled patch of floor',
  sizes: {
    length: { label: 'Long', said: 'long', metres: 2.4 },
    height: { label: 'High', said: 'high', metres: 2 },
    edge: { label: 'Edge of a tile', said: 'to a tile', metres: 0.15 },
  },
  own: {
    plain: { standing: true, joint: 0.04 } as Tiled,
    schema: { standing: z.boolean(), joint: boundedNumber().min(0).max(0.5) },
    suffixes: [
      { usual: { standing: true }, phrase: p.row(p.text('lying'), p.fixed('standing', false)) },
      { usual: { joint: 0.04 }, phrase: p.row(p.share('joint'), p.text(' joint')) },
    ],
    controls: [
      { kind: 'tick', key: 'standing', label: 'As a wall' },
      { kind: 'share', key: 'joint', label: 'Joint' },
    ],
  },
  bodies({ length, height, edge: wanted, standing, joint }): PieceBody[] {
    const edge = Math.max(wanted, Math.sqrt((length * height) / MOST));
    const [nx, ny] = [length, height].map((v) => Math.max(1, Math.round(v / edge)));
    const [w, h] = [length / nx, height / ny];
    const gap = joint * Math.min(w, h);
    const thick = 0.08 * Math.min(w, h);
    const one = tile(w - gap, h - gap, thick, 0.25 * thick);
    const all: Solid[] = [];
    for (let j = 0; j < ny; j++)
      for (let i = 0; i < nx; i++)
        all.push(shifted(one, [(i + 0.5) * w - length / 2, (j + 0.5) * h - height / 2, 0.5 * thick]));
    const ground = tile(length, height, 0.9 * thick, 0.05 * thick);
    const stand = ({ points, triangles }: Solid): Solid => {
      if (!standing) return { points, triangles };
      // Its face to the front, its lower edge on the floor.
      const out: number[] = [];
      for (let k = 0; k < points.length; k += 3)
        out.push(points[k], -points[k + 2], points[k + 1] + height / 2);
      return { points: out, triangles };
    };
    return [bodyOf(stand(joined(...all)), 'ceramic', '#ece9e2'), bodyOf(stand(ground), 'plaster', '#9a968e')];
  },
});
