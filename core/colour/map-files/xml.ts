import type { OwnMap } from '../maps/own-map.ts';
import { channels255, type MapFormat, mapOfPlaced } from './map-file.ts';

const attribute = (tag: string, name: string): string | null =>
  new RegExp(`\\b${name}\\s*=\\s*(?:"([^"]*)"|'([^']*)')`)
    .exec(tag)
    ?.slice(1)
    .find((v) => v !== undefined) ?? null;

const plainText = (text: string): string =>
  text
    .replace(/&lt;/g, '<')
    .replace(/&gt;/g, '>')
    .replace(/&quot;/g, '"')
    .replace(/&amp;/g, '&');

const asXml = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

const spaces: Record<string, OwnMap['space']> = { lab: 'lab', cielab: 'lab', oklab: 'oklab', step: 'none' };
const written: Record<OwnMap['space'], string> = { lab: 'Lab', oklab: 'OKLab', screen: 'RGB', none: 'Step' };

/** `<ColorMap name space><Point x r g b/></ColorMap>`, as open collections of maps hand them out; one or many. */
export const xmlMaps: MapFormat = {
  id: 'xml',
  name: 'XML',
  ending: '.xml',
  type: 'application/xml',
  detects: (text) => /^\s*(?:<\?xml|<!--|<ColorMap)/i.test(text),
  read(text, name) {
    if (/<!ENTITY|<!DOCTYPE/i.test(text))
      throw new Error('The file declares entities; they are not read. Save it without them.');
    const maps = [
      ...text.replace(/<!--[\s\S]*?-->/g, '').matchAll(/<ColorMap\b([^>]*)>([\s\S]*?)<\/ColorMap>/gi),
    ];
    if (maps.length === 0)
      throw new Error('There is no ColorMap in this file. Choose one with <ColorMap> and <Point>.');
    return maps.map(([, head, body], i) => {
      const own = attribute(head, 'name');
      const called = own ? plainText(own) : maps.length > 1 ? `${name} ${i + 1}` : name;
      const placed = [...body.matchAll(/<Point\b([^>]*?)\/?>/gi)].map(([, point], n) => {
        const [at, r, g, b] = ['x', 'r', 'g', 'b'].map((k) => Number(attribute(point, k) ?? Number.NaN));
        if (![at, r, g, b].every(Number.isFinite) || [r, g, b].some((v) => v < 0 || v > 1))
          throw new Error(
            `“${called}”, point ${n + 1}: it needs x, and r, g and b from 0 to 1. Correct that point.`,
          );
        return { at, colour: [r, g, b] as [number, number, number] };
      });
      return mapOfPlaced(called, placed, spaces[(attribute(head, 'space') ?? '').toLowerCase()] ?? 'screen');
    });
  },
  write({ name, space, stops }) {
    const points = stops.map(({ at, colour }) => {
      const [r, g, b] = channels255(colour).map((v) => Number((v / 255).toPrecision(9)));
      return `    <Point x="${at}" o="1" r="${r}" g="${g}" b="${b}"/>`;
    });
    return [
      '<ColorMaps>',
      `  <ColorMap name="${asXml(name)}" space="${written[space]}">`,
      ...points,
      '  </ColorMap>',
      '</ColorMaps>',
      '',
    ].join('\n');
  },
};
