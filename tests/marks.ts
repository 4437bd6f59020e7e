import { type Mark, type MarkKind, marksOfKind } from '#core/model/mark.ts';

interface Marked {
  shape: { marks: Mark[] };
  values?: (Float32Array | null)[];
}

/** The only mark of a kind; its part must have one. */
export function markOf<K extends MarkKind>({ shape }: Marked, kind: K): Extract<Mark, { kind: K }> {
  const found = marksOfKind(shape.marks, kind);
  if (found.length !== 1) throw new Error(`${found.length} marks of the kind ${kind}`);
  return found[0];
}

/** The values of the first mark. */
export const valuesOf = ({ values }: { values: (Float32Array | null)[] }): Float32Array => {
  if (!values[0]) throw new Error('there are no values');
  return values[0];
};
