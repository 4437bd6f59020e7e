import type { RunTable } from '#core/sets/run-table.ts';
import { sayColumnValue } from '../say-value.ts';
import { labelsOf } from './SheetSentence.tsx';
import type { SheetPictures } from './use-sheet-pictures.ts';

interface Props {
  /** Of the run. */
  id: string;
  name: string;
  aspect: number;
  sheet: SheetPictures;
  className?: string;
}

/** The picture of a run on a contact sheet, or what there is in its place. */
export function RunPicture({ id, name, aspect, sheet, className = '' }: Props) {
  const address = sheet.pictures.get(id);
  const failed = sheet.failed.get(id);
  const look = `w-full bg-sunk ${className}`;
  if (address)
    return (
      <img src={address} alt={name} className={`${look} object-contain`} style={{ aspectRatio: aspect }} />
    );
  return (
    <span
      className={`${look} flex items-center justify-center p-2 text-center text-xs text-soft`}
      style={{ aspectRatio: aspect }}
      title={failed && `${failed.reason}. ${failed.remedy}`}
    >
      {failed ? `Not drawn: ${failed.reason}` : 'being drawn …'}
    </span>
  );
}

/** What is said of a run below its picture. */
export const sayLabels = (table: RunTable, row: number, chosen: readonly string[] | null): string =>
  labelsOf(table, chosen)
    .map((column) => `${column.name} ${sayColumnValue(column, row)}`)
    .join(', ');

/** The same where there is little room: `900, 15 °`. */
export const sayLabelValues = (table: RunTable, row: number, chosen: readonly string[] | null): string =>
  labelsOf(table, chosen)
    .map((column) => sayColumnValue(column, row))
    .join(', ');
