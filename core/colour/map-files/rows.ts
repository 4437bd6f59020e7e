import type { OwnMap } from '../maps/own-map.ts';
import { asRgb, channels255, type MapFormat, mapOfPlaced, type Placed, wrongLine } from './map-file.ts';

/** Rows of numbers: red, green and blue, or a place before them; 0..1 or 0..255. Words before them are a heading. */
function readRows(text: string, name: string, between: RegExp): OwnMap[] {
  const rows: { numbers: number[]; line: number }[] = [];
  for (const [i, whole] of text.split(/\r?\n/).entries()) {
    const line = whole.replace(/#.*$/, '').trim();
    if (line === '') continue;
    const numbers = line.split(between).filter(Boolean).map(Number);
    if (numbers.some(Number.isNaN)) {
      if (rows.length > 0) throw wrongLine(i + 1, `“${line.slice(0, 30)}” is not all numbers.`);
      continue;
    }
    if (numbers.length < 3 || numbers.length > 5) throw wrongLine(i + 1, `it has ${numbers.length} numbers.`);
    rows.push({ numbers, line: i + 1 });
  }
  const placed = rows.length > 0 && rows[0].numbers.length >= 4;
  const odd = rows.find((r) => r.numbers.length >= 4 !== placed);
  if (odd) throw wrongLine(odd.line, 'it has another number of columns than the first.');
  const colours = rows.map((r) => (placed ? r.numbers.slice(1, 4) : r.numbers.slice(0, 3)));
  const of255 = colours.some((c) => c.some((v) => v > 1));
  const bad = colours.findIndex((c) => c.some((v) => v < 0 || v > 255));
  if (bad >= 0) throw wrongLine(rows[bad].line, 'a colour is outside 0 to 255.');
  const all = rows.map(
    ({ numbers }, i): Placed => ({ at: placed ? numbers[0] : i, colour: asRgb(colours[i], of255) }),
  );
  return [mapOfPlaced(name, all, 'screen')];
}

const written = ({ stops }: OwnMap, between: string, heading: string): string =>
  `${[heading, ...stops.map((s) => [s.at, ...channels255(s.colour)].join(between))].join('\n')}\n`;

/** `position,red,green,blue` with colours 0..255. */
export const csvMaps: MapFormat = {
  id: 'csv',
  name: 'CSV',
  ending: '.csv',
  type: 'text/csv',
  detects: (text) => /^[^\n]*[,;]/.test(text.trimStart()) && !/^\s*[<[{]/.test(text),
  read: (text, name) => readRows(text, name, /[,;\s]+/),
  write: (map) => written(map, ',', 'position,red,green,blue'),
};

/** Columns with spaces between them, the form of most collections of colour tables. */
export const textMaps: MapFormat = {
  id: 'text',
  name: 'Columns',
  ending: '.txt',
  type: 'text/plain',
  detects: () => true,
  read: (text, name) => readRows(text, name, /\s+/),
  write: (map) => written(map, ' ', `# ${map.name}: position red green blue`),
};
