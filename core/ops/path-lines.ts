import { ALONG_LINE } from '../fields/sources/along-line.ts';
import { phrasesOf } from '../language/phrase.ts';
import { z } from '../model/schema.ts';
import type { Operation } from './chain/operation.ts';
import { emptyResult } from './chain/results.ts';
import { type Drifter, drift } from './tracing/drifting.ts';
import type { LineFate } from './tracing/line-fate.ts';
import { sayWhereFrom, seedControls, seedHandles, seedSuffixes } from './tracing/seed-options.ts';
import {
  begunThroughTime,
  reportOfEnds,
  startSuffix,
  type ThroughTimeOptions,
  type TimedPoint,
  throughTimeOperation,
  throughTimeSchema,
  timedLines,
  USUAL_TOLERANCE,
  usualThroughTime,
} from './tracing/through-time.ts';

const p = phrasesOf<ThroughTimeOptions>();

/** The ways of small things that are let go at one time and carried along by a flow that changes, up to the step on show. */
export const pathLines: Operation<ThroughTimeOptions> = {
  id: 'path lines',
  name: 'Path lines',
  purpose: 'ways of what is carried along through time',
  opening: 'Path lines of ',
  joining: ', its path lines',
  schema: z.object(throughTimeSchema),
  defaults: usualThroughTime,
  phrase: p.row(
    p.maybe(p.text(' by '), p.vectorQuantity('field', 'component')),
    p.maybe(sayWhereFrom<ThroughTimeOptions>()),
    p.suffixes(...seedSuffixes<ThroughTimeOptions>(), startSuffix<ThroughTimeOptions>(), {
      usual: { tolerance: USUAL_TOLERANCE },
      phrase: p.row(p.text('to '), p.share('tolerance'), p.text(' of its size')),
    }),
  ),
  lead: p.row(p.text('path lines of '), p.vectorQuantity('field', 'component')),
  everyday: /^(?:a |the |some )?(?:path ?lines?|trajectories)\b/i,
  controls: [
    { kind: 'quantity', key: 'field', component: 'component', label: 'Of', vectors: true },
    ...seedControls<ThroughTimeOptions>(),
    {
      kind: 'number',
      key: 'start',
      label: 'Let go at',
      called: 'moment of letting go',
      none: 'the first step',
    },
    { kind: 'number', key: 'tolerance', label: 'Largest error' },
  ],
  handles: (o) => seedHandles<ThroughTimeOptions>(o),
  traits: {
    within: true,
    showsValues: true,
    colouredBy: ({ field }) => field,
    follows: true,
    makes: Object.values(ALONG_LINE),
  },
  ...throughTimeOperation,
  async runThrough(input, o, steps) {
    const begun = begunThroughTime(input, o, steps);
    if ('lacking' in begun) return emptyResult(begun);
    const { seeds, start, now, limits } = begun;
    const lines = seeds.map((): TimedPoint[] => []);
    const drifters = seeds.map(
      (place, i): Drifter => ({
        from: start,
        place,
        end: null,
        length: 0,
        onPoint: (x, y, z, time, length, flow) =>
          lines[i].push({
            place: [x, y, z],
            time: time - start,
            length,
            value: o.shows ? flow.valueHere(o.shows.component) : Number.NaN,
          }),
      }),
    );
    await drift(drifters, steps, o.field, o.shows?.field ?? null, now, limits);
    const report = reportOfEnds(
      lines.filter((l) => l.length > 1).length,
      seeds.length,
      drifters.map((d) => d.end),
    );
    return { ...timedLines(lines, o.shows, report), fates: fatesOf(lines, seeds, drifters) };
  },
};

/** What became of each, with where its points are; one that never moved has none. */
function fatesOf(
  lines: readonly (readonly TimedPoint[])[],
  seeds: readonly (readonly number[])[],
  drifters: readonly Drifter[],
): LineFate[] {
  let first = 0;
  return lines.map((line, i) => {
    const points = line.length > 1 ? line.length : 0;
    const fate: LineFate = { seed: seeds[i], back: null, ahead: drifters[i].end ?? 'time', first, points };
    first += points;
    return fate;
  });
}
