import type { FactChart } from './facts.ts';
import type { Reader } from './readers.ts';

/** A run of words within a paragraph or a caption. */
export interface Inline {
  text: string;
  bold?: boolean;
  italic?: boolean;
  /** Id of the block it refers to. */
  to?: string;
  /** Address outside the document. */
  link?: string;
  /** A value that is filled in, and what it is. */
  live?: string;
  /** What is not understood of it, with what to do. */
  trouble?: string;
}

export type Paragraph =
  | { kind: 'paragraph'; words: Inline[] }
  /** Items of a list, each with how deep it stands. */
  | { kind: 'list'; ordered: boolean; items: { depth: number; words: Inline[] }[] };

interface Numbered {
  id: string;
  /** `Figure 3`, `Table 1`; null where it is not numbered. */
  number: string | null;
  caption: Inline[];
}

/** A picture by the key of the facts that it belongs to. */
export interface ComposedPicture {
  key: string;
  aspect: number;
}

export type ComposedBlock =
  | { kind: 'text'; id: string; paragraphs: Paragraph[] }
  | (Numbered & {
      kind: 'figure';
      alt: string;
      picture: ComposedPicture;
      width: 'full' | 'half';
      living: boolean;
    })
  | (Numbered & { kind: 'chart'; alt: string; chart: FactChart })
  | (Numbered & {
      kind: 'table';
      columns: { name: string; align: 'left' | 'right' }[];
      rows: string[][];
      notes: string[];
    })
  | { kind: 'numbers'; id: string; items: { label: string; said: string; note: string }[] }
  /** Something that cannot be shown, and why. */
  | { kind: 'missing'; id: string; says: string };

export interface ComposedSection {
  /** Of its heading; null for what stands before the first one. */
  id: string | null;
  level: 1 | 2;
  number: string | null;
  title: string;
  blocks: ComposedBlock[];
}

export interface ProvenanceEntry {
  /** Name of the source. */
  source: string;
  /** A label with its values, such as the files of a run with their hashes. */
  facts: { label: string; values: string[] }[];
}

/** A report as one of its readers reads it, ready to be written in any format. */
export interface ComposedReport {
  title: string;
  subtitle: string;
  author: string;
  /** Who made it, and when. */
  byline: string[];
  reader: Reader;
  sections: ComposedSection[];
  /** Empty where the template has none. */
  contents: { id: string; level: 1 | 2; text: string }[];
  figureList: { id: string; text: string }[];
  glossary: { term: string; plain: string; meaning: string }[];
  provenance: ProvenanceEntry[];
  /** What is not right in it, with its block. */
  troubles: { block: string; says: string }[];
}
