import { readFile } from 'node:fs/promises';
import { fileName } from '#core/language/file-name.ts';
import { ReadError } from '#core/model/read-error.ts';
import { composeReport, type SeenFacts } from '#core/report/compose.ts';
import type { ComposedPicture } from '#core/report/composed.ts';
import type { Report } from '#core/report/report.ts';
import { type ReportFormat, type ReportFormatId, reportFormats } from '#core/report/report-formats.ts';

import { bestPicture, seenFacts } from './seen-store.ts';
import { picturesOf } from './writers/html.ts';
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
  const pictures = picturesOf({ report: composed });
  const bytes = (await Promise.all(pictures.map(sizeOf))).reduce((a, b) => a + b, 0);
  if (bytes > MOST_BYTES)
    throw new ReadError(
      `its ${pictures.length} pictures have ${Math.round(bytes / 2 ** 20)} MB together, which is more than one document takes (${MOST_BYTES / 2 ** 20} MB)`,
      'the report',
      'Draw them smaller, or make two reports of it.',
    );
  const picture = async ({ key }: ComposedPicture): Promise<Buffer | null> =>
    bestPicture(key).then((best) => best && readFile(best.path).catch(() => null));
  const written = await reportWriters[id]({ report: composed, brand: report.brand, picture }, signal);
  return { name: `${fileName(report.name, 'report')}.${format.ending}`, format, bytes: written };
}

const sizeOf = async ({ key }: ComposedPicture): Promise<number> => (await bestPicture(key))?.bytes ?? 0;

/** What was seen of each source, as far as it is kept. */
async function seenBySource({ sources }: Report): Promise<SeenFacts> {
  const each = sources.map(
    async ({ id, seen }) => [id, (await seenFacts(seen)) ?? 'not looked at yet'] as const,
  );
  return new Map(await Promise.all(each));
}
