import type { Brand } from '#core/report/brand.ts';
import type { ComposedPicture, ComposedReport } from '#core/report/composed.ts';

/** A report with all that is needed to write it. */
export interface ReportToWrite {
  report: ComposedReport;
  brand: Brand;
  /** PNG; null where the picture is not there. */
  picture(picture: ComposedPicture): Promise<Buffer | null>;
  /** The same in three dimensions, packed; null where it cannot be had. */
  living(picture: ComposedPicture): Promise<Buffer | null>;
}

/** @returns the bytes of the file */
export type WriteReport = (what: ReportToWrite, signal: AbortSignal) => Promise<Uint8Array>;
