import type { CustomSeriesRenderItemAPI, CustomSeriesRenderItemParams } from 'echarts';
import type { CompiledScale } from '#core/colour/compiled-scale.ts';
import { sayNumber } from '#core/language/sentence.ts';
import { isSheet, type SheetData, sheetAt } from '#core/measure/curves/sheet.ts';
import type { CurveDrawn } from '#core/scene/charts/chart-drawn.ts';

/** A curve that is drawn as a picture over the steps. */
export type SheetDrawn = CurveDrawn & {
  data: SheetData;
  colours: { scale: CompiledScale; unit: string | null };
};

export const isSheetDrawn = (curve: CurveDrawn): curve is SheetDrawn =>
  isSheet(curve.data) && curve.colours !== undefined;

/** What of it is seen, from one end of an axis to the other. */
interface Seen {
  from: number;
  to: number;
  log: boolean;
}

/**
 * What of the steps is seen; of a logarithm from the first that has one.
 *
 * @param from and `to`: what is asked for, null for an end of it
 */
export function seenAlong(
  { data: { x } }: SheetDrawn,
  from: number | null,
  to: number | null,
  log: boolean,
): Seen {
  const begin = log ? (x.find((v) => v > 0) ?? 1) : x[0];
  return { from: from !== null && (!log || from > 0) ? from : begin, to: to ?? x[x.length - 1], log };
}

const placeIn = ({ from, to, log }: Seen, share: number): number =>
  log ? from * (to / from) ** share : from + share * (to - from);

/** So many colours of a scale without bands are told apart. */
const SHADES = 1023;

/** Colours of values as bytes; what is hidden is clear. */
function inksOf(scale: CompiledScale): (value: number) => readonly [number, number, number, number] {
  const known = new Map<number, readonly [number, number, number, number]>();
  const made = (value: number) => {
    const [r, g, b] = scale.colour(value).map((c) => Math.round(255 * c));
    return [r, g, b, scale.hides(value) ? 0 : 255] as const;
  };
  return (value) => {
    if (!scale.knows(value) || value < scale.low || value > scale.high || scale.mayHide) return made(value);
    const shade = scale.bandCount > 0 ? scale.bandOf(value) : Math.round(SHADES * scale.fraction(value));
    let found = known.get(shade);
    if (!found) known.set(shade, (found = made(value)));
    return found;
  };
}

/**
 * The colours of a picture over the steps, row by row from the top, four bytes a dot.
 *
 * @param end where it ends, as films draw it up to the step on show
 */
export function sheetPixels(
  data: SheetData,
  scale: CompiledScale,
  along: Seen,
  width: number,
  height: number,
  end = Number.POSITIVE_INFINITY,
): Uint8ClampedArray<ArrayBuffer> {
  const out = new Uint8ClampedArray(4 * width * height);
  const { places } = data.sheet;
  const up: Seen = { from: places[0], to: places[places.length - 1], log: false };
  const ink = inksOf(scale);
  for (let column = 0; column < width; column++) {
    const at = placeIn(along, (column + 0.5) / width);
    if (at > end || at < data.x[0] || at > data.x[data.x.length - 1]) continue;
    for (let row = 0; row < height; row++) {
      const value = sheetAt(data, at, placeIn(up, 1 - (row + 0.5) / height));
      out.set(ink(value), 4 * (row * width + column));
    }
  }
  return out;
}

/** A canvas of such colours. */
function painted(pixels: Uint8ClampedArray<ArrayBuffer>, width: number, height: number): HTMLCanvasElement {
  const canvas = document.createElement('canvas');
  canvas.width = width;
  canvas.height = height;
  canvas.getContext('2d')!.putImageData(new ImageData(pixels, width, height), 0, 0);
  return canvas;
}

/** Pictures as they were painted last, each for the size and the colours it was painted in. */
const pictures = new WeakMap<SheetData, { key: string; canvas: HTMLCanvasElement }>();

interface OnScreen {
  x: number;
  y: number;
  width: number;
  height: number;
}

const rounded = (box: OnScreen): [number, number] => [
  Math.max(1, Math.round(box.width)),
  Math.max(1, Math.round(box.height)),
];

/** The series that paints a picture over the whole of its axes. */
export function sheetSeries(
  { id, name, data, colours: { scale } }: SheetDrawn,
  axes: { xAxisIndex: number; yAxisIndex: number },
  along: Seen,
  end: number,
): object {
  const { places } = data.sheet;
  return {
    id,
    name,
    type: 'custom',
    ...axes,
    clip: true,
    silent: true,
    // Its corners; the library draws nothing without data.
    data: [
      [along.from, places[0]],
      [along.to, places[places.length - 1]],
    ],
    renderItem({ dataIndex, coordSys }: CustomSeriesRenderItemParams, _: CustomSeriesRenderItemAPI) {
      if (dataIndex > 0) return null;
      const box = coordSys as unknown as OnScreen;
      const [width, height] = rounded(box);
      const key = JSON.stringify([width, height, along, end, scale.colours]);
      let found = pictures.get(data);
      if (found?.key !== key) {
        const canvas = painted(sheetPixels(data, scale, along, width, height, end), width, height);
        pictures.set(data, (found = { key, canvas }));
      }
      return { type: 'image', style: { image: found.canvas, ...boxOf(box) } };
    },
  };
}

/** The series that paints the colours of a scale beside it, from its low end to the high one. */
export function scaleSeries(scale: CompiledScale, axes: { xAxisIndex: number; yAxisIndex: number }): object {
  const ends = [scale.shownNumber(scale.low), scale.shownNumber(scale.high)];
  return {
    type: 'custom',
    ...axes,
    silent: true,
    data: ends.map((v) => [0, v]),
    renderItem({ dataIndex, coordSys }: CustomSeriesRenderItemParams) {
      if (dataIndex > 0) return null;
      const box = coordSys as unknown as OnScreen;
      const [, height] = rounded(box);
      const ink = inksOf(scale);
      const up: Seen = { from: ends[0], to: ends[1], log: scale.spacing.kind === 'log' };
      const pixels = new Uint8ClampedArray(4 * height);
      for (let row = 0; row < height; row++)
        pixels.set(ink(scale.storedNumber(placeIn(up, 1 - (row + 0.5) / height))), 4 * row);
      return { type: 'image', style: { image: painted(pixels, 1, height), ...boxOf(box) } };
    },
  };
}

const boxOf = ({ x, y, width, height }: OnScreen): OnScreen => ({ x, y, width, height });

/** What a picture shows at a place, in words: where it is, and the number there; null beside it. */
export function sayOfSheet({ data, colours, name }: SheetDrawn, at: number, place: number): string | null {
  const { along, up, x, sheet } = data;
  const last = sheet.places.length - 1;
  if (!(at >= x[0] && at <= x[x.length - 1] && place >= sheet.places[0] && place <= sheet.places[last]))
    return null;
  const value = sheetAt(data, at, place);
  const said = (number: number, unit: string | null): string =>
    `${sayNumber(number, 4)} ${unit ?? ''}`.trim();
  const shown = Number.isNaN(value) ? 'no value' : said(colours.scale.shownNumber(value), colours.unit);
  return `${along.name} ${said(at, along.unit)}, ${up.name} ${said(place, up.unit)}: ${name} ${shown}`;
}
