import { ALONG_LINE } from '../fields/sources/along-line.ts';
import { phrasesOf } from '../language/phrase.ts';
import { boundsDiagonal, boundsOf } from '../model/mesh.ts';
import { z } from '../model/schema.ts';
import type { Operation } from './chain/operation.ts';
import { emptyResult } from './chain/results.ts';
import { type Drifter, drift } from './tracing/drifting.ts';
import type { LineFate } from './tracing/line-fate.ts';
import { placedSeeds } from './tracing/place-seeds.ts';
import { sayWhereFrom, seedControls, seedHandles, seedSuffixes } from './tracing/seed-options.ts';
import {
  hasTimes,
  lackingThroughTime,
  needsThroughTime,
  reportOfEnds,
  settledThroughTime,
  startSuffix,
  type ThroughTimeOptions,
  type TimedPoint,
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
    p.maybe(p.text(' by '), p.quantity('field', 'component')),
    p.maybe(sayWhereFrom<ThroughTimeOptions>()),
    p.suffixes(...seedSuffixes<ThroughTimeOptions>(), startSuffix<ThroughTimeOptions>(), {
      usual: { tolerance: USUAL_TOLERANCE },
      phrase: p.row(p.text('to '), p.share('tolerance'), p.text(' of its size')),
    }),
  ),
  lead: p.row(p.text('path lines of '), p.quantity('field', 'component')),
  everyday: /^(?:a |the |some )?(?:path ?lines?|trajectories)\b/i,
  controls: [
    { kind: 'quantity', key: 'field', component: 'component', label: 'Of', vectors: true },
    ...seedControls<ThroughTimeOptions>(),
    { kind: 'number', key: 'start', label: 'Let go at', none: 'the first step' },
    { kind: 'number', key: 'tolerance', label: 'Largest error' },
  ],
  handles: (o) => seedHandles<ThroughTimeOptions>(o),
  traits: {
    within: true,
    showsValues: true,
    vectorOf: ({ field }) => field,
    follows: true,
    makes: Object.values(ALONG_LINE),
  },
  scope: 'layer',
  reads: 'all steps',
  gives: () => 1,
  fits: hasTimes,
  needs: needsThroughTime,
  partsBeside: ({ seeds, part }) => (seeds === 'part' ? [part] : []),
  settle: settledThroughTime,
  run: () => emptyResult({ lacking: 'steps to go through' }),
  async runThrough(input, o, steps) {
    const lacking = lackingThroughTime(input, steps.times);
    if (lacking) return emptyResult({ lacking });
    const seeds = placedSeeds(input, o);
    if (!seeds) return emptyResult({ lacking: `part “${o.part}” to begin on` });
    const start = o.start ?? steps.times[0];
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
    const diagonal = boundsDiagonal(boundsOf(input.mesh.points));
    const limits = { tolerance: o.tolerance * diagonal, length: Infinity, steps: 100_000 };
    await drift(drifters, steps, o.field, o.shows?.field ?? null, steps.times[steps.shown], limits);
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
