import { CellFinder } from '../fields/places/cell-finder.ts';
import { phrasesOf } from '../language/phrase.ts';
import { boundedNumber, wholeNumber } from '../model/bounded-number.ts';
import { LINE } from '../model/cell-types.ts';
import { copyOf } from '../model/recipe.ts';
import { z } from '../model/schema.ts';
import type { Operation } from './chain/operation.ts';

type Place = [number, number, number];

export interface ProbeLineOptions {
  /** In the coordinates of the files, one after the other. */
  places: Place[];
  /** How many points there are on all of it, or nearly so where it bends. */
  count: number;
}

const p = phrasesOf<ProbeLineOptions>();

/** Points on a line from place to place, the places among them, between two of them evenly. */
function pointsOn(places: readonly Place[], count: number): Float64Array {
  const lengths = places.slice(1).map((b, i) => Math.hypot(...b.map((v, k) => v - places[i][k])));
  const whole = lengths.reduce((a, b) => a + b, 0);
  const out: number[] = [...places[0]];
  for (const [i, length] of lengths.entries()) {
    const steps = Math.max(1, Math.round(((count - 1) * length) / (whole || 1)));
    for (let n = 1; n <= steps; n++)
      for (let k = 0; k < 3; k++) out.push(places[i][k] + (n / steps) * (places[i + 1][k] - places[i][k]));
  }
  return Float64Array.from(out);
}

/** A straight or bent line through the cells, with the values it meets there; where there is no cell it has gaps. */
export const probeLine: Operation<ProbeLineOptions> = {
  id: 'probe-line',
  name: 'Probe line',
  purpose: 'values along a line from place to place',
  opening: 'Probe line in ',
  joining: ', along a probe line',
  schema: z.object({
    places: z
      .array(z.tuple([boundedNumber(), boundedNumber(), boundedNumber()]))
      .min(2)
      .max(1000),
    count: wholeNumber().min(2).max(100_000).default(200),
  }),
  defaults({ bounds: b }) {
    const sizes = [0, 1, 2].map((k) => b[2 * k + 1] - b[2 * k]);
    const longest = sizes.indexOf(Math.max(...sizes));
    const end = (side: 0 | 1): Place =>
      [0, 1, 2].map((k) => {
        const v = k === longest ? b[2 * k + side] : (b[2 * k] + b[2 * k + 1]) / 2;
        return Number(v.toPrecision(4));
      }) as Place;
    return { places: [end(0), end(1)], count: 200 };
  },
  phrase: p.row(
    p.text(' through '),
    p.places('places', 'length'),
    p.unless('count', 200, p.text(' in '), p.number('count'), p.text(' points')),
  ),
  controls: [
    { kind: 'places', key: 'places', label: 'Through' },
    { kind: 'number', key: 'count', label: 'Points', whole: true, range: () => [10, 1000] },
  ],
  // It goes from part to part.
  scope: 'layer',
  reads: 'step',
  gives: () => 1,
  run(input, { places, count: wanted }) {
    const { mesh, origin } = input;
    const at = pointsOn(
      places.map((place) => place.map((v, k) => v - origin[k]) as Place),
      wanted,
    );
    const count = at.length / 3;
    const found: number[] = [];
    const [starts, nodes, weights, cells]: number[][] = [[0], [], [], []];
    const kept = new Int32Array(count).fill(-1);
    if (mesh.types.length > 0 && input.dimension >= 2) {
      const finder = new CellFinder(mesh, input.blocks());
      for (let i = 0; i < count; i++) {
        if (!finder.find(at[3 * i], at[3 * i + 1], at[3 * i + 2])) continue;
        kept[i] = found.length;
        found.push(i);
        cells.push(finder.cell);
        for (let k = 0; k < finder.count; k++) {
          nodes.push(finder.nodes[k]);
          weights.push(finder.weights[k]);
        }
        starts.push(nodes.length);
      }
    }
    const lines: number[] = [];
    const from: number[] = [];
    for (let i = 0; i + 1 < count; i++) {
      if (kept[i] < 0 || kept[i + 1] < 0) continue;
      lines.push(kept[i], kept[i + 1]);
      from.push(cells[kept[i]]);
    }
    const n = lines.length / 2;
    return {
      mesh: {
        points: Float32Array.from(found.flatMap((i) => [at[3 * i], at[3 * i + 1], at[3 * i + 2]])),
        types: new Uint8Array(n).fill(LINE),
        offsets: Uint32Array.from({ length: n + 1 }, (_, i) => 2 * i),
        connectivity: Uint32Array.from(lines),
        polyhedra: null,
      },
      recipe: {
        points: {
          ...copyOf(Uint32Array.from(nodes)),
          width: 0,
          starts: Uint32Array.from(starts),
          weight: Float32Array.from(weights),
        },
        cells: copyOf(Uint32Array.from(from)),
      },
      report: found.length < count ? { kept: found.length, of: count, what: 'points' } : null,
    };
  },
};
