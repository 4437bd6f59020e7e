import { z } from '../../model/schema.ts';
import type { ComposedBlock, Inline, Paragraph } from '../composed.ts';
import type { FactChart, SceneFacts, SetFacts, SourceFacts } from '../facts.ts';
import { type Reader, readers } from '../readers.ts';
import type { ReportTemplate } from '../template.ts';

export const idSchema = z.string().min(1).max(200);

/** What every block of a report has. */
export const blockBase = {
  id: idSchema,
  /** For whom it stands in the report; null for everybody. */
  readers: z.array(z.enum(readers)).max(readers.length).nullable(),
};

/** Words that were written by hand for some readers; what is said of itself stands for all others. */
const wordsByReader = z.partialRecord(z.enum(readers), z.string().max(4000));

/** What every block has that shows something of a source below or above a caption. */
export const captionedBase = { ...blockBase, source: idSchema, captions: wordsByReader };

/** A source as blocks see it. */
export interface SeenSource {
  name: string;
  /** Key of its facts; null while it was never looked at. */
  key: string | null;
  facts: SourceFacts | null;
  /** Why there are none. */
  trouble: string | null;
}

/** What a block is composed with. */
export interface Composing {
  reader: Reader;
  template: ReportTemplate;
  source(id: string): SeenSource | null;
  /** `Figure 3` and the like; null where it is not numbered. */
  numberOf(block: string): string | null;
  /** Plain words with their values and references filled in. */
  words(text: string, block: string): Inline[];
  paragraphs(text: string, block: string): Paragraph[];
  /** A text that was not written by hand, in the words of the reader. */
  told(text: string): string;
}

/** What is counted together. */
export type CountedAs = 'Figure' | 'Table';

/** A kind of block. A new one is a file beside this and a line in the registry. */
export interface BlockKind<B> {
  kind: string;
  /** As menus call it. */
  name: string;
  /** What it is for, in a few words. */
  about: string;
  /** What `{… NAME}` in a text calls it, and how it is counted; null where nothing refers to it. */
  counted: { word: string; as: CountedAs } | null;
  /** What of a source it shows; null for those without. */
  of: 'scene' | 'set' | null;
  schema: z.ZodType<B>;
  /** @param id of the block, and of its source where it has one */
  plain(id: string, source: string): B;
  /** Its line in the outline. */
  says(block: B, at: Pick<Composing, 'source'>): string;
  compose(block: B, at: Composing): ComposedBlock;
}

type Missing = Extract<ComposedBlock, { kind: 'missing' }>;

export const missing = (id: string, says: string): Missing => ({ kind: 'missing', id, says });

/** The facts of the source of a block, with their key; what stands in its place where there are none. */
export function seenFacts<K extends SourceFacts['kind']>(
  { id, source }: { id: string; source: string },
  kind: K,
  at: Composing,
): { facts: Extract<SceneFacts | SetFacts, { kind: K }>; key: string; name: string } | Missing {
  const seen = at.source(source);
  if (!seen) return missing(id, 'What this shows is no longer among the sources of the report.');
  const { name, facts, key, trouble } = seen;
  if (!facts || key === null) return missing(id, `${name}: ${trouble ?? 'not drawn yet'}`);
  if (facts.kind !== kind) return missing(id, `${name} is no ${kind === 'set' ? 'set of runs' : 'scene'}.`);
  return { facts: facts as never, key, name };
}

export const isMissing = (found: object): found is Missing => 'kind' in found;

/** The number of a block, with its caption: as it was written by hand for these readers, or as it tells itself. */
export function captioned(
  { id, captions }: { id: string; captions: Partial<Record<Reader, string>> },
  told: string,
  at: Composing,
): { id: string; number: string | null; caption: Inline[] } {
  const byHand = captions[at.reader];
  const caption = byHand === undefined ? [{ text: at.told(told) }] : at.words(byHand, id);
  return { id, number: at.numberOf(id), caption };
}

/** The chart of a source by its id, or the only one that is left. */
export const chartOf = ({ charts }: SceneFacts, id: string | null): FactChart | undefined =>
  charts.find((c) => c.id === id) ?? (id === null ? charts[0] : undefined);

/** The name of a source, or that it is gone. */
export const sourceName = (id: string, at: Pick<Composing, 'source'>): string =>
  at.source(id)?.name ?? 'a source that is gone';
