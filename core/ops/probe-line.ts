import { phrasesOf } from '../language/phrase.ts';
import { boundedNumber, wholeNumber } from '../model/bounded-number.ts';
import { z } from '../model/schema.ts';
import type { Operation } from './chain/operation.ts';
import { probedLine } from './kernels/probed-line.ts';

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
    { kind: 'places', key: 'places', label: 'Through', called: 'places' },
    { kind: 'number', key: 'count', label: 'Points', whole: true, range: () => [10, 1000] },
  ],
  // It goes from part to part.
  scope: 'layer',
  reads: 'step',
  gives: () => 1,
  run(input, { places, count: wanted }) {
    const here = places.map((place) => place.map((v, k) => v - input.origin[k]) as Place);
    return probedLine(input, pointsOn(here, wanted));
  },
};
