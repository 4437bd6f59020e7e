import { readFile, stat } from 'node:fs/promises';
import { fileName } from '#core/language/file-name.ts';
import { ReadError } from '#core/model/read-error.ts';
import { composeReport, type SeenFacts } from '#core/report/compose.ts';
import type { ComposedPicture, ComposedReport } from '#core/report/composed.ts';
import type { Report } from '#core/report/report.ts';
import { type ReportFormat, type ReportFormatId, reportFormats } from '#core/report/report-formats.ts';

import { bestPicture, readLiving, seenFacts, sizeOfLiving } from './seen-store.ts';
import { htmlDocument, livingOf, livingViewerPath, picturesOf } from './writers/html.ts';
import { reportWriters } from './writers/registry.ts';

/** Pictures together larger than this are not taken into one document: it would not be opened, nor held in memory. */
const MOST_BYTES = 350 * 2 ** 20;

/**
 * Writes a report as it was last seen.
 *
 * @throws ReadError where its pictures are too large together
 */
export async function fileOfReport(
  report: Report,
  id: ReportFormatId,
  signal: AbortSignal,
): Promise<{ name: string; format: ReportFormat; bytes: Uint8Array }> {
  const format = reportFormats.find((f) => f.id === id)!;
  const composed = composeReport(report, await seenBySource(report));
  const { pictures, living } = await sizeOfPage(composed);
  const bytes = pictures + (id === 'html' ? living : 0);
  if (bytes > MOST_BYTES)
    throw new ReadError(
      `its ${picturesOf({ report: composed }).length} figures have ${Math.round(bytes / 2 ** 20)} MB together, which is more than one document takes (${MOST_BYTES / 2 ** 20} MB)`,
      'the report',
      'Draw them smaller, let readers turn fewer of them, or make two reports of it.',
    );
  const picture = async ({ key }: ComposedPicture): Promise<Buffer | null> =>
    bestPicture(key).then((best) => best && readFile(best.path).catch(() => null));
  const turned = ({ key }: ComposedPicture): Promise<Buffer | null> => readLiving(key);
  const what = { report: composed, brand: report.brand, picture, living: turned };
  const written = await reportWriters[id](what, signal);
  return { name: `${fileName(report.name, 'report')}.${format.ending}`, format, bytes: written };
}

/** Bytes of what a page carries as they lie in the store. */
async function sizeOfPage(report: ComposedReport): Promise<{ pictures: number; living: number }> {
  const ofPicture = async ({ key }: ComposedPicture): Promise<number> => (await bestPicture(key))?.bytes ?? 0;
  const ofLiving = async ({ key }: ComposedPicture): Promise<number> => (await sizeOfLiving(key)) ?? 0;
  const sum = async (sizes: Promise<number>[]): Promise<number> =>
    (await Promise.all(sizes)).reduce((a, b) => a + b, 0);
  return {
    pictures: await sum(picturesOf({ report }).map(ofPicture)),
    living: await sum(livingOf({ report }).map(ofLiving)),
  };
}

/** A page as it would be written now. */
export interface PageAhead {
  /** Of its file, within a hundredth. */
  bytes: number;
  /** How many figures its readers can turn, how many are too large for it, and how many are not made ready yet. */
  living: number;
  tooLarge: number;
  unready: number;
}

/** How large the page of a report will be, before it is written. */
export async function pageAhead(report: Report): Promise<PageAhead> {
  const composed = composeReport(report, await seenBySource(report));
  const sizes = await Promise.all(livingOf({ report: composed }).map(({ key }) => sizeOfLiving(key)));
  const living = sizes.filter((s) => s !== null && s > 0).length;
  const viewer = living > 0 ? (await stat(livingViewerPath())).size : 0;
  const { pictures, living: turned } = await sizeOfPage(composed);
  const words = await htmlDocument({ report: composed, brand: report.brand }, { picture: () => null }, '');
  return {
    // Base64 has four letters for three bytes (RFC 4648).
    bytes: Buffer.byteLength(words) + viewer + Math.round(((pictures + turned) * 4) / 3),
    living,
    tooLarge: sizes.filter((s) => s === 0).length,
    unready: sizes.filter((s) => s === null).length,
  };
}

/** What was seen of each source, as far as it is kept. */
async function seenBySource({ sources }: Report): Promise<SeenFacts> {
  const each = sources.map(
    async ({ id, seen }) => [id, (await seenFacts(seen)) ?? 'not looked at yet'] as const,
  );
  return new Map(await Promise.all(each));
}
