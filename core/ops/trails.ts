import { ALONG_LINE } from '../fields/sources/along-line.ts';
import { phrasesOf } from '../language/phrase.ts';
import { boundedNumber, wholeNumber } from '../model/bounded-number.ts';
import { boundsDiagonal } from '../model/mesh.ts';
import { z } from '../model/schema.ts';
import type { Operation, OperationInput, StepInput, StepsThrough } from './chain/operation.ts';
import { emptyResult } from './chain/results.ts';
import { componentOf } from './chain/workpiece.ts';
import { identifiersOf, knownBy, NO_IDENTIFIER, orderLost, usualIdentifier } from './kernels/known-points.ts';
import {
  type MetOnTheWay,
  metSchema,
  neededOnTheWay,
  settledMet,
  type TimedPoint,
  timedLines,
} from './tracing/through-time.ts';

export interface TrailOptions extends MetOnTheWay {
  /** Tells which point is which at every step; empty where they keep their order. */
  field: string;
  component: number;
  /** How many steps back; null from the first one. */
  steps: number | null;
  /** A way from one step to the next that is longer breaks the trail; null for none. */
  jump: number | null;
}

const p = phrasesOf<TrailOptions>();

/**
 * Where points have been, from step to step up to the one on show. They are linked by a number of their own, so that
 * neither their order nor how many there are need stay as it was.
 */
export const trails: Operation<TrailOptions> = {
  id: 'trails',
  name: 'Trails',
  purpose: 'where particles have been',
  opening: 'Trails of ',
  joining: ', their trails',
  schema: z.object({
    field: z.string().default(''),
    component: wholeNumber().default(0),
    steps: wholeNumber().min(1).nullable().default(null),
    jump: boundedNumber().positive().nullable().default(null),
    ...metSchema,
  }),
  defaults: (setting) => ({
    field: usualIdentifier(setting),
    component: 0,
    steps: null,
    jump: null,
    shows: null,
  }),
  phrase: p.row(
    p.oneOf(
      p.row(p.text(' in their order'), p.fixed('field', '')),
      p.maybe(p.text(' by '), p.quantity('field', 'component')),
    ),
    p.unless('steps', null, p.text(' over the last '), p.number('steps'), p.text(' steps')),
    p.unless('jump', null, p.text(', broken at jumps of more than '), p.number('jump', 'length')),
  ),
  everyday: /^(?:a |the |some )?(?:particle (?:paths?|tracks?|trails?)|tracks?|traces? of particles)\b/i,
  controls: [
    knownBy,
    {
      kind: 'number',
      key: 'steps',
      label: 'Steps back',
      none: 'all of them',
      whole: true,
      range: (_, s) => [1, Math.max(2, s.steps)],
    },
    {
      kind: 'number',
      key: 'jump',
      label: 'Break at jumps over',
      none: 'never',
      unit: 'length',
      range: (_, { bounds }) => [0, boundsDiagonal(bounds) / 2],
    },
  ],
  traits: { showsValues: true, ofPoints: true, makes: Object.values(ALONG_LINE) },
  scope: 'layer',
  reads: 'all steps',
  gives: () => 1,
  fits: (setting) => setting.steps > 1,
  needs: neededOnTheWay,
  settle: settledMet,
  run: () => emptyResult({ lacking: 'steps to go through' }),
  async runThrough(input, o, steps) {
    if (steps.shown === 0)
      return emptyResult({ lacking: 'earlier step: at the first one nothing has been anywhere else' });
    const made = await gathered(input, o, steps);
    if ('lacking' in made) return emptyResult(made);
    return timedLines(made.lines, o.shows, { kept: made.lines.length, of: made.of, what: 'points' });
  },
};

/** Places on all trails together; of more points only some leave one. */
const MOST_PLACES = 4_000_000;

/** Where a point has been since it was first met, or since it jumped. */
class Trail {
  points: TimedPoint[] = [];
  private began = 0;

  constructor(private readonly jump: number | null) {}

  add(place: readonly number[], time: number, value: number): void {
    const before = this.points.at(-1);
    const way = before ? Math.hypot(...place.map((v, k) => v - before.place[k])) : 0;
    if (!before || (this.jump !== null && way > this.jump)) {
      this.began = time;
      this.points = [{ place, time: 0, length: 0, value }];
    } else this.points.push({ place, time: time - this.began, length: before.length + way, value });
  }
}

/** The trails of the points that come in, at most so many that they can be drawn. */
async function gathered(
  input: OperationInput,
  { field, component, steps: back, jump, shows }: TrailOptions,
  { times, shown, at }: StepsThrough,
): Promise<{ lines: TimedPoint[][]; of: number } | { lacking: string }> {
  const first = back === null ? 0 : Math.max(0, shown - back);
  const named = field !== '';
  const known = named ? input.field({ field }) : null;
  if (named && known?.location !== 'point') return { lacking: NO_IDENTIFIER };
  const of = input.mesh.points.length / 3;
  // Where they keep their order each is known by its place in that of the source, whatever was kept of it.
  const ids = known ? identifiersOf(known, component) : input.sourcePoints();
  if (!ids) return { lacking: 'order they came in: they are made of several each' };
  const every = Math.ceil((of * (shown - first + 1)) / MOST_PLACES);
  const trailOf = new Map<number, Trail>();
  for (let i = 0; i < of; i += every) trailOf.set(ids[i], new Trail(jump));
  let before: number | null = null;
  for (let index = first; index <= shown; index++) {
    const step = await at(index);
    if (!step) continue;
    const { points } = step.mesh;
    const count = points.length / 3;
    if (!named && before !== null && count !== before) return { lacking: orderLost(before, count) };
    before = count;
    const own = named ? step.field(field) : null;
    const idsThen = own && identifiersOf(own, component);
    const values = valuesOf(step, shows);
    for (let i = 0; i < count; i++)
      trailOf
        .get(idsThen ? idsThen[i] : i)
        ?.add([points[3 * i], points[3 * i + 1], points[3 * i + 2]], times[index], values?.[i] ?? Number.NaN);
  }
  // What has not moved has left no trail.
  const lines = [...trailOf.values()]
    .map((t) => t.points)
    .filter((line) => line.at(-1) && line.at(-1)!.length > 0);
  return { lines, of };
}

function valuesOf(step: StepInput, shows: TrailOptions['shows']): ArrayLike<number> | null {
  const field = shows && step.field(shows.field);
  return field?.location === 'point' ? componentOf(field, shows!.component) : null;
}
