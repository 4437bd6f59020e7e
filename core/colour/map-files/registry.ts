import type { OwnMap } from '../maps/own-map.ts';
import { jsonMaps } from './json.ts';
import type { MapFormat } from './map-file.ts';
import { csvMaps, textMaps } from './rows.ts';
import { segmentMaps } from './segments.ts';
import { xmlMaps } from './xml.ts';

/** Ways to write colour maps down, in the order in which they are tried on a file. A new one is a file and a line. */
export const mapFormats: readonly MapFormat[] = [jsonMaps, xmlMaps, segmentMaps, csvMaps, textMaps];

/** Larger than any table of colours. */
const LARGEST = 4_000_000;

/**
 * The maps a file holds, whatever it is written in.
 *
 * @throws Error with reason, place and remedy
 */
export function readMaps(text: string, fileName: string): OwnMap[] {
  if (text.length > LARGEST) throw new Error(`${fileName} is too large for a table of colours.`);
  if (text.trim() === '') throw new Error(`${fileName} is empty. Choose a table of colours.`);
  const name = fileName.replace(/\.[^.]+$/, '') || 'Map';
  return mapFormats.find((f) => f.detects(text))!.read(text, name);
}
