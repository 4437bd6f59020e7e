import { sayNumber } from '../language/sentence.ts';
import type { RunDescription } from '../model/run.ts';
import { secondsIn } from '../model/units.ts';
import type { Scene } from '../scene/document.ts';
import { followsTime, showsValues } from '../scene/moment-on-show.ts';
import { spanOfReel } from '../scene/things/reel.ts';
import { laneTroubles, timeOfRun, valuesOfLanes } from './scene-at.ts';
import { placeOf, placesOf, stateAt } from './time-map.ts';

/** The pictures of a film: when each is, in seconds from the beginning of the film, one after the other. */
export interface FilmPictures {
  count: number;
  rate: number;
  /** From when to when. */
  from: number;
  to: number;
  at(index: number): number;
  /** The index of the picture that is nearest to a time; before the first and behind the last it goes on evenly. */
  nearest(time: number): number;
}

/**
 * The pictures of the film of a scene. Their number is its length times its rate, to the nearest whole one; the first shows
 * its beginning. The last shows its end, but where it goes round: there it is as far from the first as any two are.
 */
export function filmPictures({ reel }: Pick<Scene, 'reel'>, rate = reel.rate): FilmPictures {
  const { from, to } = spanOfReel(reel);
  const count = Math.max(1, Math.round((to - from) * rate));
  const gaps = reel.loop ? count : Math.max(1, count - 1);
  return {
    count,
    rate,
    from,
    to,
    at: (index) => from + ((to - from) * index) / gaps,
    nearest: (time) => (to > from ? Math.round(((time - from) / (to - from)) * gaps) : 0),
  };
}

/** The index of the picture that stands for a film where it is not played. */
export function posterOfFilm({ reel }: Pick<Scene, 'reel'>): number {
  const film = filmPictures({ reel });
  return Math.min(film.count - 1, Math.max(0, film.nearest(reel.poster)));
}

/** What the pictures of a film show of the steps of its run. */
export interface StepsOfFilm {
  /** How many steps are seen, by themselves or in what is made of two. */
  shown: number;
  /** Steps between those that no picture shows. */
  skipped: number;
  /** Pictures that show the same of the run as the one before, though its time has gone on. */
  repeated: number;
  /** Pictures whose values were made between two steps. */
  made: number;
  /** Pictures at times before the first step or behind the last, which stand still there. */
  outside: number;
  /** How much faster than the clock the run goes, at least and at most, where it goes at all; null where that means nothing. */
  pace: { least: number; most: number } | null;
}

/** Longer films are looked at by so many of their pictures. */
const MOST_LOOKED_AT = 20_000;

export function stepsOfFilm(scene: Scene, run: RunDescription): StepsOfFilm {
  // Lines that always show one step are as they are whatever the time does.
  if (!followsTime(scene)) {
    const fixed = scene.layers.filter(showsValues).map(({ time }) => time.kind === 'fixed' && time.step);
    return { shown: new Set(fixed).size, skipped: 0, repeated: 0, made: 0, outside: 0, pace: null };
  }
  const pictures = filmPictures(scene);
  const places = placesOf(run);
  const every = Math.max(1, pictures.count / MOST_LOOKED_AT);
  const [first, last] = [places.values[0], places.values[places.values.length - 1]];
  const wanted = Array.from(
    { length: Math.floor(pictures.count / every) },
    (_, i) => timeOfRun(scene, run, pictures.at(Math.floor(i * every))) ?? placeOf(places, scene),
  );
  const asked = wanted.map((place) => Math.min(last, Math.max(first, place)));
  const states = asked.map((place) => stateAt(places, place, scene.reel.between));
  const seen = new Set(states.flatMap((s) => (s.onward === 0 ? [s.step] : [s.step, s.step + 1])));
  const ends = states.map((s) => s.step);
  const between = asked.slice(1).map((place, i) => Math.abs(place - asked[i]));
  const moves = between.filter((by) => by > 0).map((by) => (by * pictures.rate) / every);
  const same = (i: number): boolean =>
    states[i].step === states[i + 1].step && states[i].onward === states[i + 1].onward;
  const second = places.unit === null ? undefined : secondsIn[places.unit];
  const known = second !== undefined && moves.length > 0;
  return {
    shown: seen.size,
    skipped: most(seen) - least(ends) + 1 - seen.size,
    repeated: between.filter((by, i) => by > 0 && same(i)).length,
    made: states.filter((s) => s.onward > 0).length,
    outside: wanted.filter((place, i) => place !== asked[i]).length,
    pace: known ? { least: least(moves) * second, most: most(moves) * second } : null,
  };
}

const least = (of: Iterable<number>): number => [...of].reduce((a, b) => Math.min(a, b), Infinity);
const most = (of: Iterable<number>): number => [...of].reduce((a, b) => Math.max(a, b), -Infinity);

/** Values that are no further apart than this share of them are the same: those of keys have seven digits. */
const SAME = 1e-5;

function nearlySame(a: unknown, b: unknown): boolean {
  if (typeof a === 'number' && typeof b === 'number')
    return Math.abs(a - b) <= SAME * Math.max(1, Math.abs(a), Math.abs(b));
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return a === b;
  const [of, other] = [Object.entries(a), b as Record<string, unknown>];
  return of.length === Object.keys(b).length && of.every(([key, value]) => nearlySame(value, other[key]));
}

/**
 * What a film that goes round shows otherwise at its end than at its beginning, as a script says it: there it jumps. What
 * changes by jumps alone does so on purpose.
 */
export function seamOfFilm(scene: Scene, run: RunDescription): string[] {
  const { from, to } = spanOfReel(scene.reel);
  if (!scene.reel.loop) return [];
  const end = valuesOfLanes(scene, run, to);
  return valuesOfLanes(scene, run, from).flatMap(({ moves, value, jumps }, i) =>
    jumps || nearlySame(value, end[i].value) ? [] : [moves],
  );
}

/** What spoils a film, each in a sentence: lanes that do not act, steps that are left out or stand still, ends that do not fit. */
export function warningsOfFilm(
  scene: Scene,
  run: RunDescription,
  { shown, skipped, repeated, outside } = stepsOfFilm(scene, run),
): string[] {
  const out = laneTroubles(scene, run).map(({ moves, says }) => `The lane of ${moves} does not act. ${says}`);
  const { from, to, seconds } = scene.reel;
  if (from >= Math.min(to ?? seconds, seconds))
    out.push(
      `It is to begin at ${from} s and to end at ${to ?? seconds} s, but is ${seconds} s long: all of it is shown. Let its beginning lie before its end.`,
    );
  const seam = seamOfFilm(scene, run);
  if (seam.length > 0)
    out.push(
      `It goes round, but jumps from its end to its beginning: there ${seam.join(' and ')} ${seam.length > 1 ? 'are' : 'is'} not the same. Give the end the keys of the beginning, or let it not go round.`,
    );
  if (skipped > 0)
    out.push(
      `${skipped} of ${shown + skipped} steps are not shown: there are fewer pictures than steps. Make the film longer, or give it more pictures a second.`,
    );
  if (repeated > 0)
    out.push(
      `${repeated} pictures show the step of the one before: there are more pictures than steps. Let values be made between two steps, or make the film shorter.`,
    );
  if (outside > 0)
    out.push(
      `${outside} pictures stand still: their times lie beyond the steps of the run. Let the lane of the time end with its last step.`,
    );
  return out;
}

/** How fast a run is shown: `3 times faster than it was`, `40 to 60 times faster`, `as fast as it was`. */
export function sayPace({ least: slow, most: fast }: NonNullable<StepsOfFilm['pace']>): string {
  const even = fast - slow <= 0.01 * fast;
  if (even && Math.abs(fast - 1) < 0.005) return 'as fast as it was';
  const times = (factor: number): string => sayNumber(factor, 3);
  const said = (a: number, b: number): string => (even ? times(b) : `${times(a)} to ${times(b)}`);
  if (slow >= 0.995) return `${said(slow, fast)} times faster than it was`;
  if (fast <= 1.005) return `${said(1 / fast, 1 / slow)} times slower than it was`;
  return `from ${times(1 / slow)} times slower to ${times(fast)} times faster than it was`;
}
