import { boundedNumber, wholeNumber } from '../../model/bounded-number.ts';
import type { Component } from '../../model/quantity.ts';
import { z } from '../../model/schema.ts';
import type { Vector } from '../../model/vectors.ts';

/** A quantity of which a value is wanted. */
export interface WantedValue {
  field: string;
  component: Component;
}

/** What an annotation can hang on, beside a place of its own. */
export type Attachment =
  /** A point or cell of a part, by its index; it goes where that goes. */
  | { kind: 'node' | 'cell'; part: string; index: number; values: WantedValue[] }
  /** The middle of what is shown of a part. */
  | { kind: 'part'; part: string }
  /** Where the first of the values is lowest or highest: on what is drawn, or anywhere in the parts on show. */
  | { kind: 'lowest' | 'highest'; among: 'shown' | 'all'; values: WantedValue[] };

/** What an attachment leads to at a step. */
export interface Found {
  /** In the coordinates of the files. */
  place: Vector;
  part: string;
  /** Of the point or cell, where there is one. */
  index: number | null;
  /** One for each that is wanted, not a number where there is none. */
  values: number[];
}

/** The same thing asked, the same name. */
export const attachmentKey = (attachment: Attachment): string => JSON.stringify(attachment);

/** What annotations say of where they hang, as a document keeps it. */
export interface Hook {
  on: 'place' | 'part' | 'node' | 'cell' | 'lowest' | 'highest';
  /** In the coordinates of the files, for `place`. */
  place: Vector;
  /** For `part`, `node` and `cell`. */
  part: string;
  /** Of the point or cell, counted from 0. */
  index: number;
  /** The quantity, for its extremes and as the value. */
  field: string;
  component: Component;
  among: 'shown' | 'all';
  /** From where it hangs to the middle of the words, in heights of the picture; null to have it found. */
  aside: [number, number] | null;
}

export const hookSchema = {
  on: z.enum(['place', 'part', 'node', 'cell', 'lowest', 'highest']),
  place: z.tuple([boundedNumber(), boundedNumber(), boundedNumber()]),
  part: z.string().max(300),
  index: wholeNumber().min(0),
  field: z.string().max(500),
  component: z.union([wholeNumber().min(0), z.literal('magnitude')]),
  among: z.enum(['shown', 'all']),
  aside: z.tuple([boundedNumber().min(-5).max(5), boundedNumber().min(-5).max(5)]).nullable(),
};

export const plainHook: Hook = {
  on: 'place',
  place: [0, 0, 0],
  part: '',
  index: 0,
  field: '',
  component: 0,
  among: 'all',
  aside: null,
};

/**
 * What a hook leads to; null for a place of its own, which is known already.
 *
 * @param values that are told there; of an extreme the first is its own
 */
export function attachmentOf(hook: Hook, values: WantedValue[]): Attachment | null {
  switch (hook.on) {
    case 'node':
    case 'cell':
      return { kind: hook.on, part: hook.part, index: hook.index, values };
    case 'part':
      return { kind: 'part', part: hook.part };
    case 'lowest':
    case 'highest':
      return { kind: hook.on, among: hook.among, values };
    default:
      return null;
  }
}
