import { type Phrase, readTriple, sayValue } from '../language/phrase.ts';
import { quoteIfNeeded, words } from '../language/sentence.ts';
import type { SentenceReader } from '../language/sentence-reader.ts';
import { z } from '../model/schema.ts';
import type { OperationInput } from '../ops/chain/operation.ts';

type Place = [number, number, number];

/** A node or a cell of a part, which may move. Both count from 0, as words that hang on them do. */
export interface Picked {
  kind: 'node' | 'cell';
  index: number;
  part: string;
}

/** Where something is asked for: a place, a node, or the middle of a cell. */
export type Spot = { kind: 'place'; place: Place } | Picked;

export const pickedSchema: z.ZodType<Picked> = z.object({
  kind: z.enum(['node', 'cell']),
  index: z.number().int().min(0),
  part: z.string(),
});

export const spotSchema: z.ZodType<Spot> = z.union([
  z.object({ kind: z.literal('place'), place: z.tuple([z.number(), z.number(), z.number()]) }),
  pickedSchema,
]);

const sayPicked = ({ kind, index, part }: Picked): string => `${kind} ${index} of ${quoteIfNeeded(part)}`;

/** `node 12 of rack`, `cell 5 of "left tin"`; says nothing where none is picked. */
export const picked = <O>(key: keyof O & string): Phrase<O> => ({
  say(o) {
    const at = o[key] as Picked | null;
    return at && [words(sayPicked(at))];
  },
  read(r, into) {
    const found = r.first<Picked>([() => readPicked(r, 'node'), () => readPicked(r, 'cell')]);
    if (!found) return false;
    into[key] = found as O[keyof O & string];
    return true;
  },
});

/** `(1, 2, 3) m`, or what is picked. */
export const spot = <O>(key: keyof O & string): Phrase<O> => ({
  say(o, s) {
    const at = o[key] as Spot;
    if (at.kind !== 'place') return [words(sayPicked(at))];
    const said = at.place.map((v) => sayValue(v, null, s)).join(', ');
    return [words(`(${said})${s.lengthUnit ? ` ${s.lengthUnit}` : ''}`)];
  },
  read(r, into, s) {
    const found = r.first<Spot>([
      () => readPicked(r, 'node'),
      () => readPicked(r, 'cell'),
      () => readPlace(r, s.lengthUnit),
    ]);
    if (!found) return false;
    into[key] = found as O[keyof O & string];
    return true;
  },
});

function readPicked(r: SentenceReader, kind: Picked['kind']): Picked | undefined {
  if (!r.words(kind)) return undefined;
  const index = r.number(null, 'its number');
  if (index === undefined || !r.words('of')) return undefined;
  const part = r.quoted() ?? r.until(/\s+(?:to|and|at|between|from)\b|,|$/).trim();
  return part ? { kind, index, part } : undefined;
}

function readPlace(r: SentenceReader, lengthUnit: string | null): Spot | undefined {
  const place = readTriple(r);
  if (!place) return undefined;
  if (lengthUnit) r.words(lengthUnit);
  else r.passOverUnit();
  return { kind: 'place', place };
}

/** Where a spot is in a part, in the coordinates of the files; null where the part does not have it. */
export function placeOfSpot(spot: Spot, { mesh, part, origin }: OperationInput): number[] | null {
  if (spot.kind === 'place') return [...spot.place];
  if (spot.part !== part) return null;
  const { points, offsets, connectivity } = mesh;
  const of = (node: number): number[] => [0, 1, 2].map((k) => points[3 * node + k] + origin[k]);
  if (spot.kind === 'node') return 3 * spot.index < points.length ? of(spot.index) : null;
  if (spot.index + 1 >= offsets.length) return null;
  const nodes = Array.from(connectivity.subarray(offsets[spot.index], offsets[spot.index + 1]), of);
  return [0, 1, 2].map((k) => nodes.reduce((sum, p) => sum + p[k], 0) / nodes.length);
}
