import { readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { BatchEntry } from '#core/batch/batch-log.ts';
import { type DocumentFormat, documentFormats, PICTURES_IN_DOCUMENTS } from '#core/batch/document-formats.ts';
import { fileName } from '#core/language/file-name.ts';
import { sayNumber } from '#core/language/sentence.ts';
import { nameWithUnit } from '#core/model/quantity.ts';
import { ReadError } from '#core/model/read-error.ts';
import { z } from '#core/model/schema.ts';
import { type ReportedPicture, reportPages } from '#core/sets/report-pages.ts';
import { emptyRunSet, tableOfSet } from '#core/sets/run-set.ts';
import { type SheetPage, sheetPageSchema } from '#core/sets/sheet-layout.ts';
import { columnsInOrder } from '#web/desks/sheets/columns-in-order.ts';
import { saidEnds } from '#web/desks/sheets/contact/said-ends.ts';
import { sayColumnValue, sayValue } from '#web/desks/sheets/say-value.ts';
import { NotFound } from './answer.ts';
import type { BatchOrder } from './batch-order.ts';
import { type EndsOfBatch, filesOfBatch, orderOf } from './batches-of-set.ts';
import { documentWriters } from './documents/document-writers.ts';
import type { PageImage } from './documents/pages-to-write.ts';
import { listedRuns, openSet } from './run-sets.ts';

/** Pictures together larger than this are not taken into one document: it would not be opened, nor held in memory. */
const MOST_BYTES = 600 * 2 ** 20;

const ids = documentFormats.map(({ id }) => id);

/** What document is wanted: a report of a batch, or pages that were laid out with its pictures. */
export const documentWish = z.object({
  format: z.enum(ids),
  sheet: z
    .object({
      title: z.string().max(300),
      pages: z.array(sheetPageSchema).min(1).max(2000),
      /** Paths of the pictures below the folder of the batch, by their rows. */
      paths: z.record(z.string(), z.string().max(1000)),
    })
    .nullable(),
});

export type DocumentWish = z.infer<typeof documentWish>;

interface BatchDocument {
  name: string;
  format: DocumentFormat;
  bytes: Uint8Array;
}

/**
 * Writes a document of the pictures of a batch.
 *
 * @throws NotFound where the batch is not known; ReadError where none of its pictures is there, or they are too large together
 */
export async function documentOfBatch(
  job: string,
  { format: id, sheet }: DocumentWish,
  signal: AbortSignal,
): Promise<BatchDocument> {
  const { folder, entries, ends, name } = await filesOfBatch(job);
  const format = documentFormats.find((f) => f.id === id)!;
  const known = new Map(entries.map((e) => [e.path, e]));
  const { title, pages, paths } = sheet
    ? { ...sheet, paths: new Map(Object.entries(sheet.paths).map(([row, path]) => [Number(row), path])) }
    : await reportOf(await orderOf(job), known, ends);
  // None but files of the batch are read, whatever paths are asked for.
  const files = new Map(
    [...paths].flatMap(([row, path]) => (known.has(path) ? [[row, join(folder, path)]] : [])),
  );
  await checkSizes([...files.values()]);
  const picture = async (row: number): Promise<PageImage | null> => {
    const path = files.get(row);
    const bytes = path && (await readFile(path).catch(() => null));
    return bytes ? { bytes, type: path.endsWith('.png') ? 'image/png' : 'image/jpeg' } : null;
  };
  const bytes = await documentWriters[id]({ title, pages, picture }, signal);
  return { name: `${fileName(sheet?.title ?? `${name} report`, 'report')}.${format.ending}`, format, bytes };
}

async function checkSizes(paths: readonly string[]): Promise<void> {
  const sizes = await Promise.all(
    paths.map((path) =>
      stat(path).then(
        (s) => s.size,
        () => null,
      ),
    ),
  );
  const there = sizes.filter((size) => size !== null);
  if (there.length === 0)
    throw new ReadError(
      'no picture of this batch is there as PNG or JPEG',
      'the document',
      'Make the batch with one of these formats, or look whether its folder is where it was.',
    );
  const all = there.reduce((a, b) => a + b, 0);
  if (all > MOST_BYTES)
    throw new ReadError(
      `its ${there.length} pictures have ${Math.round(all / 2 ** 20)} MB together, which is more than one document takes (${MOST_BYTES / 2 ** 20} MB)`,
      'the document',
      'Make them as JPEG or smaller, or fewer at once.',
    );
}

/** The pages of the report of a batch, with the paths of the pictures on them. */
async function reportOf(
  order: BatchOrder,
  known: ReadonlyMap<string, BatchEntry>,
  ends: readonly EndsOfBatch[],
): Promise<{ title: string; pages: SheetPage[]; paths: Map<number, string> }> {
  const set = await openSet(order.set).then(
    ({ document }) => document,
    (error) => {
      if (error instanceof NotFound) return emptyRunSet(order.name);
      throw error;
    },
  );
  const own = new Set(order.runs.map(({ id }) => id));
  const runs = (await listedRuns(set.measures.map((m) => m.sentence))).filter(({ id }) => own.has(id));
  const table = tableOfSet({ ...set, runs: order.runs.map(({ id }) => id) }, runs);
  const columns = columnsInOrder(table).filter((c) => c.role !== 'label');
  const rowOf = new Map(table.rows.map(({ id }, i) => [id, i]));
  const ordered = new Map(order.runs.map((run) => [run.id, run]));
  const several = {
    looks: new Set(order.drawings.map((d) => d.look)).size > 1,
    sizes: new Set(order.drawings.map((d) => `${d.size.width}x${d.size.height}`)).size > 1,
  };
  const paths = new Map<number, string>();
  const pictures: ReportedPicture[] = [];
  const failures: string[] = [];
  for (const { shot, run, size, film, files } of order.drawings) {
    const made = files.flatMap(({ path }) => known.get(path) ?? []);
    const { name = '', timeUnit = null } = ordered.get(run) ?? {};
    const shown = PICTURES_IN_DOCUMENTS.flatMap(
      (format) => made.find((e) => e.format === format && e.problem === null) ?? [],
    )[0];
    if (!shown) {
      // A film that is whole plays beside the document.
      if (film !== undefined && made.length > 0 && made.every((e) => e.problem === null)) continue;
      const problem = made.find((e) => e.problem)?.problem;
      const shotName = order.shots.find((s) => s.id === shot)?.name ?? '';
      failures.push(
        `${shotName}, ${name}: ${problem ? `${problem.reason}. ${problem.remedy}` : 'not made yet'}`,
      );
      continue;
    }
    paths.set(pictures.length, shown.path);
    const row = rowOf.get(run);
    const said = row === undefined ? [] : columns.map((c) => `${c.name} ${sayColumnValue(c, row)}`);
    pictures.push({
      shot,
      run: name,
      aspect: size.width / size.height,
      notes: shown.notes,
      facts: [
        ...said,
        `step ${shown.step}${shown.time === null ? '' : ` at ${sayNumber(shown.time)}${timeUnit ? ` ${timeUnit}` : ''}`}`,
        ...(several.looks ? [`look ${shown.look ?? 'of the shot'}`] : []),
        ...(several.sizes ? [`${size.width} × ${size.height}`] : []),
      ],
    });
  }
  const count = (n: number, one: string): string => `${n} ${one}${n === 1 ? '' : 's'}`;
  return {
    title: order.name,
    paths,
    pages: reportPages({
      title: order.name,
      statements: [
        `${count(pictures.length, 'picture')} of ${count(order.runs.length, 'run')} by ${count(order.shots.length, 'shot')}`,
        scalesSaid[order.settings.scales],
        new Date().toISOString().slice(0, 10),
      ],
      shots: order.shots.map(({ id, name }) => ({
        id,
        name,
        statement: `${scalesSaid[order.settings.scales]}${saidEnds(ends.filter((e) => e.shot === id))}`,
      })),
      pictures,
      table: {
        columns: ['run', ...columns.map(nameWithUnit)],
        rows: table.rows.map(({ name }, row) => [
          name,
          ...columns.map(({ values }) => sayValue(values[row])),
        ]),
      },
      failures,
    }),
  };
}

const scalesSaid: Record<BatchOrder['settings']['scales'], string> = {
  shared: 'One colour scale for all runs',
  kept: 'Colour scales as they were kept with each shot',
  each: 'Each run has colour scales of its own, which do not compare',
};
