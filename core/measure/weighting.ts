import { ownName } from '../fields/quantity-sources.ts';
import type { FieldNeed } from '../fields/sources/quantity-source.ts';
import { type Phrase, type PhraseSetting, phrasesOf, quantityByKey } from '../language/phrase.ts';
import type { Component, Quantity } from '../model/quantity.ts';
import { z } from '../model/schema.ts';
import type { OperationInput } from '../ops/chain/operation.ts';
import type { Lacking } from './measure.ts';
import type { Place } from './places.ts';

/** A quantity by which every place counts more or less, beside its size. */
export interface Weighting {
  /** Key of the quantity; empty for none. */
  weight: string;
  weightComponent: Component;
}

export const weightingShape = {
  weight: z.string().default(''),
  weightComponent: z.union([z.number().int().min(0), z.literal('magnitude')]).default(0),
};

const p = phrasesOf<Weighting>();

/** `weighted by density`, where there is one. */
export const weightedBy = <O extends Weighting>(): Phrase<O> =>
  p.unless(
    'weight',
    '',
    p.text(' weighted by '),
    p.quantity('weight', 'weightComponent'),
  ) as unknown as Phrase<O>;

/** Says no words of its own: a mass is the density of the run times the size. Without a density it is refused, with what to write. */
export const byDensity = <O extends Weighting>(instead: string): Phrase<O> => ({
  say: () => null,
  read(r, into, { quantities }) {
    const density = quantities.find((q: Quantity) => q.role === 'density' && q.components === 1);
    if (!density) return r.refuse(r.at, `the run has no density; say ${instead}`, []);
    into.weight = density.field as O['weight'];
    into.weightComponent = density.component as O['weightComponent'];
    return true;
  },
});

export const weightNeeds = ({ weight }: Weighting): FieldNeed[] => (weight ? [{ field: weight }] : []);

/** The unit of the weight: none for none, null where it is not known. */
export const weightUnit = ({ weight, weightComponent }: Weighting, s: PhraseSetting): string | null =>
  weight ? (quantityByKey(weight, weightComponent, s)?.unit ?? null) : '';

/** What a place weighs for each of its size: one where there is no weight. */
export function weigher(
  input: OperationInput,
  { weight, weightComponent }: Weighting,
): ((place: Place) => number) | Lacking {
  if (!weight) return () => 1;
  const field = input.field({ field: weight });
  if (!field) return { lacking: ownName(weight) };
  const quantity = { field: weight, component: weightComponent, whole: false };
  const value = new Float64Array(1);
  return (place) => {
    place.measure(quantity, field, value);
    return value[0];
  };
}

/**
 * What flows through each place of faces, by a vector.
 *
 * @param along the direction that counts as forward, whichever way round faces are walked; null for that in which they look
 */
export function flowWeigher(
  input: OperationInput,
  flowing: string,
  along: readonly number[] | null,
): ((place: Place) => number) | Lacking {
  const field = input.field({ field: flowing });
  if (!field) return { lacking: ownName(flowing) };
  if (input.mesh.types.length > 0 && input.dimension !== 2)
    return { lacking: 'faces to go through: they are points or lines' };
  const components = Math.min(3, field.components);
  const quantity = { field: flowing, component: 'magnitude' as const, whole: true };
  const value = new Float64Array(field.components);
  return (place) => {
    place.measure(quantity, field, value);
    let through = 0;
    let facing = 0;
    for (let k = 0; k < components; k++) through += value[k] * place.across[k];
    if (along) for (let k = 0; k < 3; k++) facing += along[k] * place.across[k];
    return facing < 0 ? -through : through;
  };
}
