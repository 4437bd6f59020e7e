import type { SentenceReader } from '../../language/sentence-reader.ts';
import { sameJson } from '../../model/same-json.ts';
import { type Ease, easeSchema, namedEases } from './ease.ts';

const BY = 'eased by';

/** A way of going on, as sentences have it: `ease both ends`, `hold`, `eased by (0.3, 0, 0.7, 1)`. */
export const sayEase = (ease: Ease): string =>
  namedEases.find((n) => sameJson(n.ease, ease))?.said ??
  `${BY} (${ease.kind === 'curve' ? ease.handles.join(', ') : ''})`;

export function readEase(reader: SentenceReader): Ease | undefined {
  const named = reader.name(namedEases.map(({ said, ease }) => ({ text: said, value: ease })));
  if (named) return named;
  if (!reader.words(BY) || !reader.words('(')) return undefined;
  const handles: number[] = [];
  for (let i = 0; i < 4; i++) {
    const value = reader.number(null);
    if (value === undefined || !reader.words(i < 3 ? ',' : ')')) return undefined;
    handles.push(value);
  }
  const read = easeSchema.safeParse({ kind: 'curve', handles });
  return read.success ? read.data : undefined;
}
