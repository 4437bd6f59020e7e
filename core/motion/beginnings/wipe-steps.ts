import { phrasesOf } from '../../language/phrase.ts';
import { wholeNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import type { Layer, Scene } from '../../scene/document.ts';
import { showsValues } from '../../scene/moment-on-show.ts';
import { bothEnds } from '../../scene/reel/ease.ts';
import type { NewLane } from '../../scene/reel/lane.ts';
import type { Beginning } from './beginning.ts';
import { ONE_STEP } from './play-results.ts';
import { movingWipe } from './wipe-lines.ts';

interface WipeSteps {
  /** Numbers of the steps before and behind it, from 1. */
  before: number;
  after: number;
}

const p = phrasesOf<WipeSteps>();

/** One step of the results gives way to another as an edge goes over the picture. */
export const wipeSteps: Beginning<WipeSteps> = {
  id: 'wipe steps',
  name: 'Wipe from one step to another',
  purpose: 'what has values is shown at one step before an edge, at another behind it',
  schema: z.object({ before: wholeNumber().min(1), after: wholeNumber().min(1) }),
  defaults({ run, scene }) {
    if (run.steps.length < 2) return ONE_STEP;
    return scene.layers.some((l) => l.visible)
      ? { before: 1, after: run.steps.length }
      : 'There is no line on show. Add one first.';
  },
  phrase: p.row(p.text('wipe from step '), p.number('before'), p.text(' to step '), p.number('after')),
  controls: ({ steps }) => [
    { kind: 'number', key: 'before', label: 'Step before', whole: true, range: () => [1, steps] },
    { kind: 'number', key: 'after', label: 'Step after', whole: true, range: () => [1, steps] },
  ],
  ease: bothEnds,
  begin: ({ before, after }, span, { scene, run }) => {
    const last = run.steps.length;
    const at = (number: number): Layer['time'] => ({ kind: 'fixed', step: Math.min(last, number) - 1 });
    const { layers, copies } = dividedLines(scene, at(before), at(after));
    return { layers, lanes: [movingWipe(span), ...lanesOfCopies(scene, copies)] };
  },
};

/** What moves of a line moves of its copy too. */
const lanesOfCopies = ({ lanes }: Scene, copies: ReadonlyMap<string, string>): NewLane[] =>
  lanes.flatMap(({ of: [list, id, ...rest], off, keys, smooth, steady }) => {
    const copy = list === 'layers' && !off ? copies.get(id) : undefined;
    return copy === undefined ? [] : [{ of: [list, copy, ...rest], keys, smooth, steady }];
  });

/**
 * Lines with one for each side of the wipe, each at its step; those that lie on one side already stay there.
 *
 * @returns with the ids of the copies, by those of the lines they were made of
 */
function dividedLines(
  scene: Scene,
  before: Layer['time'],
  after: Layer['time'],
): { layers: Layer[]; copies: Map<string, string> } {
  const whole = scene.layers.filter((l) => l.visible && l.wipe === 'both');
  const valued = whole.filter(showsValues);
  // Bodies without values may move from step to step.
  const divided = new Set(valued.length > 0 || whole.length < scene.layers.length ? valued : whole);
  const ids = new Set(scene.layers.map((l) => l.id));
  const copies = new Map<string, string>();
  const layers = scene.layers.flatMap((l): Layer[] => {
    if (l.wipe !== 'both') return [{ ...l, time: l.wipe === 'before' ? before : after }];
    if (!divided.has(l)) return [l];
    let id = `${l.id}-before`;
    while (ids.has(id)) id += '-';
    ids.add(id);
    copies.set(l.id, id);
    const name = l.name && `${l.name}, before`;
    return [
      { ...l, id, name, wipe: 'before', time: before },
      { ...l, wipe: 'after', time: after },
    ];
  });
  return { layers, copies };
}
