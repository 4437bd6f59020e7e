import type { SheetPage } from '#core/sets/sheet-layout.ts';

/** A picture as documents take it. */
export interface PageImage {
  bytes: Buffer;
  type: 'image/png' | 'image/jpeg';
}

/** What a document is written of. */
export interface PagesToWrite {
  title: string;
  pages: readonly SheetPage[];
  /** What is shown at a place of a page; null where it is not there. */
  picture(row: number): Promise<PageImage | null>;
}

/** @returns the bytes of the file */
export type WriteDocument = (what: PagesToWrite, signal: AbortSignal) => Promise<Uint8Array>;
