import { whereCondition } from '../fields/condition.ts';
import type { FieldsOnMesh } from '../fields/fields-on-mesh.ts';
import { phrasesOf } from '../language/phrase.ts';
import { wholeNumber } from '../model/bounded-number.ts';
import type { Mesh } from '../model/mesh.ts';
import { weighted } from '../model/recipe.ts';
import { z } from '../model/schema.ts';
import {
  type ConditionOptions,
  conditionShape,
  needsOfCondition,
  withConditionSettled,
} from './chain/condition-options.ts';
import type { Operation, OperationInput, OperationResult, StepInput } from './chain/operation.ts';
import { emptyResult } from './chain/results.ts';
import { identifiersOf, knownBy, NO_IDENTIFIER, orderLost, usualIdentifier } from './kernels/known-points.ts';
import { loneCells, somePoints } from './kernels/points-alone.ts';

/** The condition says where they come to, or go from. */
export interface ComingsOptions extends ConditionOptions {
  /** Tells which point is which at both steps; empty where they keep their order. */
  field: string;
  component: number;
}

const p = phrasesOf<ComingsOptions>();

/** Points that are in a region now and were not at the step before, or the other way round. */
const comings = (
  told: Pick<Operation<ComingsOptions>, 'id' | 'name' | 'purpose' | 'joining'> & { word: string },
  made: (now: KnownPoints, before: KnownPoints) => OperationResult,
): Operation<ComingsOptions> => ({
  id: told.id,
  name: told.name,
  purpose: told.purpose,
  opening: `${told.name} of `,
  joining: told.joining,
  schema: z.object({
    ...conditionShape,
    field: z.string().default(''),
    component: wholeNumber().default(0),
  }),
  defaults: (setting) => ({
    condition: `x > ${Number(((setting.bounds[0] + setting.bounds[1]) / 2).toPrecision(3))}`,
    names: {},
    field: usualIdentifier(setting),
    component: 0,
  }),
  phrase: p.row(
    p.text(` ${told.word} `),
    p.condition('condition'),
    p.oneOf(
      p.row(p.text(', known in their order'), p.fixed('field', '')),
      p.maybe(p.text(', known by '), p.quantity('field', 'component')),
    ),
  ),
  controls: [{ kind: 'condition', key: 'condition', label: 'Where', called: 'places' }, knownBy],
  traits: { showsValues: true, ofPoints: true },
  scope: 'layer',
  reads: 'all steps',
  gives: () => 0,
  fits: (setting) => setting.steps > 1,
  needs: (o) => [...(o.field === '' ? [] : [{ field: o.field }]), ...needsOfCondition(o)],
  settle: withConditionSettled,
  run: () => emptyResult({ lacking: 'steps to go through' }),
  async runThrough(input, o, steps) {
    const then = steps.shown > 0 ? await steps.at(steps.shown - 1) : null;
    if (!then) return emptyResult({ lacking: 'earlier step: at the first one nothing has come or gone' });
    const today = await steps.at(steps.shown);
    const [counts, ago] = [today?.mesh.points.length ?? 0, then.mesh.points.length];
    if (o.field === '' && counts !== ago) return emptyResult({ lacking: orderLost(ago / 3, counts / 3) });
    const now = knownPoints(input, o, input.sourcePoints());
    const before = knownPoints(fieldsOf(then, input), o, null);
    if ('lacking' in now) return emptyResult(now);
    if ('lacking' in before) return emptyResult(before);
    const result = made(now, before);
    return {
      ...result,
      report: { kept: result.mesh.points.length / 3, of: now.inside.length, what: 'points' },
    };
  },
});

interface KnownPoints {
  mesh: Mesh;
  /** Whether the condition holds for each of them. */
  inside: ArrayLike<number>;
  /** What each of them is known by. */
  name(point: number): number;
}

const fieldsOf = ({ mesh, field }: StepInput, { origin, part }: OperationInput): FieldsOnMesh => ({
  mesh,
  origin,
  part,
  field: (need) => field(need.field),
});

/** @param order of what was left out of: which of the points of the source each of them is; null where all are there */
function knownPoints(
  on: FieldsOnMesh,
  { condition, names, field, component }: ComingsOptions,
  order: ArrayLike<number> | null,
): KnownPoints | { lacking: string } {
  const inside = whereCondition(on, condition, names, 'points');
  if (field === '') return { mesh: on.mesh, inside, name: (point) => order?.[point] ?? point };
  const known = on.field({ field });
  if (known?.location !== 'point') return { lacking: NO_IDENTIFIER };
  const ids = identifiersOf(known, component);
  return { mesh: on.mesh, inside, name: (point) => ids[point] };
}

/** Those of some points for which the condition holds, and not for the same ones of others. */
function onlyIn(some: KnownPoints, others: KnownPoints): number[] {
  const there = new Set<number>();
  for (let i = 0; i < others.inside.length; i++) if (others.inside[i] !== 0) there.add(others.name(i));
  const out: number[] = [];
  for (let i = 0; i < some.inside.length; i++)
    if (some.inside[i] !== 0 && !there.has(some.name(i))) out.push(i);
  return out;
}

export const arrivals = comings(
  {
    id: 'arrivals',
    name: 'Arrivals',
    purpose: 'particles that came into a region since the step before',
    joining: ', those that came',
    word: 'to where',
  },
  (now, before) => somePoints(now.mesh, Uint32Array.from(onlyIn(now, before))),
);

export const departures = comings(
  {
    id: 'departures',
    name: 'Departures',
    purpose: 'particles that left a region since the step before',
    joining: ', those that left',
    word: 'from where',
  },
  // They are where they are now; what is gone altogether is where it was last, and has no values.
  (now, before) => {
    const which = onlyIn(before, now);
    const present = new Map<number, number>();
    for (let i = 0; i < now.inside.length; i++) present.set(now.name(i), i);
    const points = new Float32Array(3 * which.length);
    const index = new Uint32Array(which.length);
    const weight = new Float32Array(which.length);
    for (const [i, at] of which.entries()) {
      const today = present.get(before.name(at));
      const [from, place] = today === undefined ? [before.mesh, at] : [now.mesh, today];
      points.set(from.points.subarray(3 * place, 3 * place + 3), 3 * i);
      index[i] = today ?? 0;
      weight[i] = today === undefined ? Number.NaN : 1;
    }
    const route = weighted(1, index, weight);
    return { mesh: loneCells(points), recipe: { points: route, cells: route } };
  },
);
