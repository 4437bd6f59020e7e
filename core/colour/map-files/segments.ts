import { hexToRgb, type Rgb } from '../cielab.ts';
import type { OwnMap } from '../maps/own-map.ts';
import { asRgb, channels255, type MapFormat, mapOfPlaced, type Placed, wrongLine } from './map-file.ts';

/** Each line a stretch with a colour at its beginning and at its end: `z0 r g b z1 r g b`, or `z0 r/g/b z1 r/g/b`. */
const NUMBER = '(-?[\\d.]+(?:e[-+]?\\d+)?)';
const COLOUR = '(#[0-9a-f]{6}|[\\d.]+/[\\d.]+/[\\d.]+|[\\d.]+\\s+[\\d.]+\\s+[\\d.]+)';
const stretch = new RegExp(`^\\s*${NUMBER}\\s+${COLOUR}\\s+${NUMBER}\\s+${COLOUR}\\s*(?:[;LUB].*)?$`, 'i');

function colourOf(text: string, line: number): Rgb {
  if (/^#[0-9a-f]{6}$/i.test(text)) return hexToRgb(text);
  const numbers = text.split(/[\s/]+/).map(Number);
  if (numbers.length !== 3 || numbers.some((v) => !(v >= 0 && v <= 255)))
    throw wrongLine(line, `“${text}” is no colour of three numbers from 0 to 255.`);
  return asRgb(numbers, true);
}

/** Tables of stretches as maps of land and sea come in; its lines for below, above and nothing are passed over. */
export const segmentMaps: MapFormat = {
  id: 'segments',
  name: 'Stretches',
  ending: '.cpt',
  type: 'text/plain',
  detects: (text) =>
    text
      .split(/\r?\n/)
      .filter((l) => l.trim() !== '' && !/^\s*[#BFN]/i.test(l))
      .every((l) => stretch.test(l)),
  read(text, name) {
    const placed: Placed[] = [];
    let stepped = true;
    for (const [i, whole] of text.split(/\r?\n/).entries()) {
      if (/^\s*#.*COLOR_MODEL\s*=\s*\+?(?!RGB)\w/i.test(whole))
        throw new Error(
          `Line ${i + 1}: its colours are not red, green and blue. Save the table with RGB colours.`,
        );
      if (whole.trim() === '' || /^\s*[#BFN]/i.test(whole)) continue;
      const found = stretch.exec(whole);
      if (!found) throw wrongLine(i + 1, 'it is no stretch between two values.');
      const [, from, a, to, b] = found;
      const [begin, end] = [colourOf(a, i + 1), colourOf(b, i + 1)];
      if (begin.some((v, k) => v !== end[k])) stepped = false;
      placed.push({ at: Number(from), colour: begin }, { at: Number(to), colour: end });
    }
    if (stepped && placed.length > 2) {
      const own = placed.filter((_, i) => i % 2 === 0).map((p, i): Placed => ({ ...p, at: i }));
      return [mapOfPlaced(name, own, 'none')];
    }
    // Neighbours share an end: the same colour need not stand there twice.
    const once = placed.filter(
      (p, i) =>
        i === 0 || p.at !== placed[i - 1].at || p.colour.some((v, k) => v !== placed[i - 1].colour[k]),
    );
    return [mapOfPlaced(name, once, 'screen')];
  },
  write({ name, space, stops }: OwnMap): string {
    const rgb = (i: number): string => channels255(stops[i].colour).join('/');
    const n = stops.length;
    const lines =
      space === 'none'
        ? stops.map((_, i) => `${i / n} ${rgb(i)} ${(i + 1) / n} ${rgb(i)}`)
        : stops.slice(1).map((s, i) => `${stops[i].at} ${rgb(i)} ${s.at} ${rgb(i + 1)}`);
    return `${[`# ${name}`, '# COLOR_MODEL = RGB', ...lines].join('\n')}\n`;
  },
};
