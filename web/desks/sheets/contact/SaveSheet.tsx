import { zipSync } from 'fflate';
import { Send } from 'lucide-react';
import { useState } from 'react';
import { type DocumentFormat, documentFormats } from '#core/batch/document-formats.ts';
import { fileName } from '#core/language/file-name.ts';
import { runMatrix } from '#core/sets/run-matrix.ts';
import type { RunTable } from '#core/sets/run-table.ts';
import { matrixPage, rowsForShape, type SheetPage, stripPages } from '#core/sets/sheet-layout.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { Progress } from '#web/desks/shared/Progress.tsx';
import { saveFile } from '#web/desks/shared/save-file.ts';
import { useWork } from '#web/desks/shared/work-state.ts';
import { Chooser } from '#web/desks/stage/Chooser.tsx';
import type { ListedShot } from '#web/server/listed-shots.ts';
import { saveDocument } from '../save-document.ts';
import { sayValue } from '../say-value.ts';
import { useRunSet } from '../set-store.ts';
import { matrixWish } from './MatrixView.tsx';
import { paintSheet } from './paint-sheet.ts';
import { sayLabels } from './RunPicture.tsx';
import { saidEnds } from './said-ends.ts';
import { type SheetPictures, sizeOnSheet } from './use-sheet-pictures.ts';

interface Props {
  as: 'strip' | 'matrix';
  table: RunTable;
  rows: readonly number[];
  shot: ListedShot;
  sheet: SheetPictures;
}

/** Rows of pictures on a page, where a strip is given out in pages. */
const ROWS_ON_PAGE = 4;

/** Pages of documents are as wide screens are, where they can be. */
const SHAPE_OF_SLIDES = 16 / 9;

/** Gives a contact sheet out: as one picture, a strip in pages, or a document with words that are words. */
export function SaveSheet({ as, table, rows, shot, sheet }: Props) {
  const set = useRunSet();
  const [across, setAcross] = useState(4);
  const { work, problem, run } = useWork();
  const lacking = rows.length - rows.filter((row) => sheet.pictures.has(table.rows[row].id)).length;
  const name = fileName(`${set.name} ${shot.name}`, 'sheet');
  const pages = (down: number | null): SheetPage[] => {
    const item = (row: number) => ({
      row,
      label: [table.rows[row].name, sayLabels(table, row, set.sheet.labels)].filter(Boolean).join(': '),
    });
    const words = { title: set.name, statement: statementOf(shot, set.sheet.scales, sheet) };
    const picture = sizeOnSheet(set.sheet.width, shot.aspect);
    if (as === 'strip') return [...stripPages({ ...words, items: rows.map(item), picture, across, down })];
    const wish = matrixWish(table, set.matrix);
    const laid = runMatrix(table, rows, wish);
    const column = (key: string | null) => table.columns.find((c) => c.key === key);
    const unit = (key: string | null): string => (column(key)?.unit ? ` ${column(key)!.unit}` : '');
    return [
      matrixPage({
        ...words,
        picture,
        cells: laid.cells.map((line) => line.map((cell) => cell.map(item))),
        across: laid.across.map(
          (v) => `${column(wish.across)?.name ?? ''} ${sayValue(v)}${unit(wish.across)}`,
        ),
        down: laid.down.map(sayValue),
        corner: `${column(wish.down)?.name ?? ''}${unit(wish.down)}`,
      }),
    ];
  };
  const paint = (page: SheetPage, signal: AbortSignal): Promise<Blob> =>
    paintSheet(page, (row) => sheet.pictures.get(table.rows[row].id) ?? null, signal);
  const saveOne = () =>
    run('Making the sheet', async (_, signal) => {
      const [page] = pages(null);
      saveFile(await paint(page, signal), `${name}.png`);
    });
  const savePages = () =>
    run('Making the pages', async (progress, signal) => {
      const all = pages(ROWS_ON_PAGE);
      const files: Record<string, Uint8Array> = {};
      for (const [i, page] of all.entries()) {
        const blob = await paint(page, signal);
        files[`${name}-${String(i + 1).padStart(3, '0')}.png`] = new Uint8Array(await blob.arrayBuffer());
        progress((i + 1) / all.length);
      }
      saveFile(new Blob([zipSync(files, { level: 0 })]), `${name}.zip`);
    });
  const saveAs = (format: DocumentFormat) =>
    run(
      `Writing the ${format.name}`,
      async (_, signal) => {
        const size = sizeOnSheet(set.sheet.width, shot.aspect);
        const all = pages(rowsForShape(Math.min(across, rows.length), size, SHAPE_OF_SLIDES));
        const paths = Object.fromEntries(
          rows.flatMap((row) => {
            const path = sheet.paths.get(table.rows[row].id);
            return path === undefined ? [] : [[row, path]];
          }),
        );
        await saveDocument(
          sheet.job!,
          format,
          { title: `${set.name} ${shot.name}`, pages: all, paths },
          signal,
        );
      },
      { measured: false },
    );
  return (
    <Chooser
      word={
        <>
          <Send size={15} /> Give out
        </>
      }
      look="act shrink-0"
      label="Give the sheet out"
      side="bottom"
    >
      <div className="flex flex-col gap-3">
        {as === 'strip' && (
          <fieldset>
            <legend className="head mb-1">Pictures beside each other</legend>
            <div className="flex gap-1">
              {[2, 3, 4, 5, 6, 8].map((n) => (
                <Pill key={n} on={across === n} onClick={() => setAcross(n)}>
                  {n}
                </Pill>
              ))}
            </div>
          </fieldset>
        )}
        {lacking > 0 && (
          <p className="text-sm text-warn">
            {lacking === 1 ? 'One picture is' : `${lacking} pictures are`} not drawn yet: their places say so.
          </p>
        )}
        {work ? (
          <Progress {...work} onCancel={work.cancel} />
        ) : (
          <div className="flex flex-wrap gap-1.5">
            <button type="button" className="act h-8 text-sm" onClick={saveOne}>
              As one picture
            </button>
            {as === 'strip' && (
              <button type="button" className="quiet h-8 text-sm" onClick={savePages}>
                In pages
              </button>
            )}
            {documentFormats.map((format) => (
              <button
                key={format.id}
                type="button"
                className="quiet h-8 text-sm"
                disabled={sheet.job === null || sheet.paths.size === 0}
                title={`As ${format.name}, with words that stay words (.${format.ending})`}
                onClick={() => saveAs(format)}
              >
                {format.name}
              </button>
            ))}
          </div>
        )}
        {problem && <ProblemNote problem={problem} />}
      </div>
    </Chooser>
  );
}

function statementOf(shot: ListedShot, scales: 'shared' | 'kept' | 'each', { ends }: SheetPictures): string {
  const what = `${shot.name} of each run`;
  if (scales === 'each') return `${what}; each run has colour scales of its own, which do not compare`;
  const whose = scales === 'shared' ? 'one colour scale for all' : `colour scales as in ${shot.runName}`;
  return `${what}; ${whose}${saidEnds(ends)}`;
}
