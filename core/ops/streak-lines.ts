import { ALONG_LINE } from '../fields/sources/along-line.ts';
import { phrasesOf } from '../language/phrase.ts';
import { wholeNumber } from '../model/bounded-number.ts';
import { z } from '../model/schema.ts';
import type { Operation } from './chain/operation.ts';
import { emptyResult } from './chain/results.ts';
import { type Drifter, drift } from './tracing/drifting.ts';
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

export interface StreakOptions extends ThroughTimeOptions {
  /** How many are let go at each seed, evenly from the start to the time on show. */
  puffs: number;
}

const USUAL_PUFFS = 60;
const p = phrasesOf<StreakOptions>();

/** Where what left the seeds one after the other is now: smoke from a nozzle. */
export const streakLines: Operation<StreakOptions> = {
  id: 'streak lines',
  name: 'Streak lines',
  purpose: 'smoke that leaves its seeds all the time',
  opening: 'Streak lines of ',
  joining: ', its streak lines',
  schema: z.object({
    ...throughTimeSchema,
    puffs: wholeNumber().min(2).max(10_000).default(USUAL_PUFFS),
  }),
  defaults: (setting) => ({ ...usualThroughTime(setting), count: 12, puffs: USUAL_PUFFS }),
  phrase: p.row(
    p.maybe(p.text(' by '), p.vectorQuantity('field', 'component')),
    p.maybe(sayWhereFrom<StreakOptions>()),
    p.suffixes(
      ...seedSuffixes<StreakOptions>(),
      { usual: { puffs: USUAL_PUFFS }, phrase: p.row(p.number('puffs'), p.text(' puffs')) },
      startSuffix<StreakOptions>(),
      {
        usual: { tolerance: USUAL_TOLERANCE },
        phrase: p.row(p.text('to '), p.share('tolerance'), p.text(' of its size')),
      },
    ),
  ),
  lead: p.row(p.text('streak lines of '), p.vectorQuantity('field', 'component')),
  everyday: /^(?:a |the |some )?(?:streak ?lines?|smoke)\b/i,
  controls: [
    { kind: 'quantity', key: 'field', component: 'component', label: 'Of', vectors: true },
    ...seedControls<StreakOptions>(),
    { kind: 'number', key: 'puffs', label: 'Puffs', whole: true, range: () => [2, 400] },
    { kind: 'number', key: 'start', label: 'From', called: 'first step', none: 'the first step' },
    { kind: 'number', key: 'tolerance', label: 'Largest error' },
  ],
  handles: (o) => seedHandles<StreakOptions>(o),
  traits: {
    within: true,
    showsValues: true,
    colouredBy: ({ field }) => field,
    makes: Object.values(ALONG_LINE),
  },
  ...throughTimeOperation,
  async runThrough(input, o, steps) {
    const begun = begunThroughTime(input, o, steps);
    if ('lacking' in begun) return emptyResult(begun);
    const { seeds, start, now, limits } = begun;
    const drifters: Drifter[] = [];
    const reached: (TimedPoint | null)[] = [];
    for (const seed of seeds)
      for (let k = 0; k < o.puffs; k++) {
        const index = drifters.length;
        const from = start + ((now - start) * k) / (o.puffs - 1);
        reached.push(k === o.puffs - 1 ? { place: seed, time: 0, length: 0, value: Number.NaN } : null);
        drifters.push({
          from,
          place: seed,
          end: null,
          length: 0,
          onPoint: (x, y, z, time, length, flow) => {
            const value = o.shows ? flow.valueHere(o.shows.component) : Number.NaN;
            reached[index] = { place: [x, y, z], time: time - from, length, value };
          },
        });
      }
    await drift(drifters, steps, o.field, o.shows?.field ?? null, now, limits);
    // What has left is no part of the streak; the rest hangs together from the seed on.
    const lines = seeds.flatMap((_, s) => {
      const out: TimedPoint[][] = [[]];
      for (let k = o.puffs - 1; k >= 0; k--) {
        const point = reached[s * o.puffs + k];
        const { end } = drifters[s * o.puffs + k];
        if (point && end === null) out[out.length - 1].push(point);
        else if (out[out.length - 1].length > 0) out.push([]);
      }
      return out;
    });
    // What has just been let go has met nothing yet: it is as the one before it.
    for (const line of lines) if (line.length > 1) line[0] = { ...line[0], value: line[1].value };
    const ends = drifters.map((d) => d.end);
    return timedLines(
      lines,
      o.shows,
      reportOfEnds(lines.filter((l) => l.length > 1).length, seeds.length, ends),
    );
  },
};
