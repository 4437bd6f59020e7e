import type { FieldNeed } from '../fields/sources/quantity-source.ts';
import { type Phrase, type PhraseSetting, quantityOf } from '../language/phrase.ts';
import { quantityNames } from '../language/quantity-names.ts';
import { readQuantity } from '../language/read-quantity.ts';
import type { MeshField } from '../model/field.ts';
import type { Component, Quantity } from '../model/quantity.ts';
import { z } from '../model/schema.ts';
import type { OperationSetting } from '../ops/chain/operation.ts';

/** What of a field is measured: one component, the length of a vector, or all of its parts. */
export interface MeasuredQuantity {
  field: string;
  component: Component;
  whole: boolean;
}

export const measuredQuantityShape = {
  field: z.string(),
  component: z.union([z.number().int().min(0), z.literal('magnitude')]),
  whole: z.boolean().default(false),
};

/** The length of a vector is asked for by name; its own name means all of its parts. */
const SIZE = /\b(?:magnitude|length|size|speed)\b/i;

const SWINGING = /^swinging /;

/** A complex quantity by itself is what it is at the phase that is asked for. */
function names(s: PhraseSetting): { text: string; value: Quantity }[] {
  const known = quantityNames(s);
  const taken = new Set(known.map((n) => n.text.toLowerCase()));
  const complex = s.quantities
    .filter((q) => SWINGING.test(q.name))
    .map((value) => ({ text: value.name.replace(SWINGING, ''), value }));
  return [...known, ...complex.filter(({ text }) => !taken.has(text.toLowerCase()))];
}

export const measuredQuantity = <O extends MeasuredQuantity>(): Phrase<O> => ({
  say(o, s) {
    const known = quantityOf({ field: o.field, component: o.component }, s);
    const name = known?.name ?? `"${o.field}#${o.component}"`;
    const size = o.component === 'magnitude' && !o.whole && !SIZE.test(name);
    return [{ text: size ? `magnitude of ${name}` : name }];
  },
  read(r, into, s) {
    r.passOver('the');
    const found = readQuantity(r, s, names(s));
    if (!found) return false;
    into.field = found.field as O['field'];
    into.component = found.component as O['component'];
    into.whole = (found.component === 'magnitude' && !SIZE.test(found.said)) as O['whole'];
    return true;
  },
});

/** Whether the answer has parts along x, y and z. */
export const isVector = ({ whole }: MeasuredQuantity): boolean => whole;

/** A sentence about the quantity a newcomer most likely wants to know of. */
export const exampleOf = (measure: string, { preferred }: OperationSetting): string | null =>
  preferred && `${measure} of ${preferred.name} over everything`;

export const needOf = ({ field }: MeasuredQuantity): FieldNeed[] => [{ field }];

/** What it is called, by itself. */
export const quantityNameOf = (o: MeasuredQuantity, s: PhraseSetting): string =>
  quantityOf({ field: o.field, component: o.component }, s)?.name ?? o.field;

export const unitOf = (o: MeasuredQuantity, s: PhraseSetting): string | null =>
  quantityOf({ field: o.field, component: o.component }, s)?.unit ?? null;

/** How many numbers there are to a place. */
export const numbersOf = ({ whole }: MeasuredQuantity, { components }: MeshField): number =>
  whole ? components : 1;

/** One number by itself, the parts of a vector together. */
export const asAnswer = (values: number[]): number | number[] => (values.length === 1 ? values[0] : values);

/** The numbers that are measured at one point or cell of a field, into `out`. */
export function measuredAt(
  { component, whole }: MeasuredQuantity,
  { data, components }: MeshField,
  index: number,
  out: Float64Array,
): void {
  const from = components * index;
  if (whole) for (let k = 0; k < components; k++) out[k] = data[from + k];
  else if (component !== 'magnitude') out[0] = data[from + component];
  else if (components === 1) out[0] = data[from];
  else {
    let squares = 0;
    for (let k = 0; k < components; k++) squares += data[from + k] ** 2;
    out[0] = Math.sqrt(squares);
  }
}
