import { encode } from 'fast-png';
import { hexToRgb, type Rgb } from '#core/colour/cielab.ts';
import type { CompiledScale } from '#core/colour/compiled-scale.ts';
import { type AcrossLine, acrossLine } from '#core/formats/surfaces/scene-to-write.ts';
import type { BodyPicture } from '#core/model/body.ts';

/** Pixels of a scale between its ends, and beyond each of them. */
const ALONG = 1024;
const ALONG_BANDS = 4096;
const BEYOND = 64;
/** Some viewers know no pictures of one row. */
const ROWS = 4;

/** The colours of a scale as a picture, and where on it a value lies. */
export interface ColourPicture {
  picture: BodyPicture;
  /** Whether its colours run into each other. */
  mixed: boolean;
  /** Across the picture from its left, 0..1; null for what has no place on the scale. */
  across(value: number): number | null;
  /** The same where values are spaced evenly; else null. */
  line: AcrossLine | null;
  /** Where on the picture the ends of the scale lie. */
  ends: readonly [number, number];
}

/**
 * The colours of a scale from left to right, with what lies below and above it at the sides: so that programs which only
 * know pictures on bodies mix values between corners, as the stage does, and not colours.
 */
export function colourPicture(scale: CompiledScale): ColourPicture {
  const mixed = scale.bandCount === 0;
  const along = mixed ? ALONG : ALONG_BANDS;
  const width = along + 2 * BEYOND;
  const { below, above } = scale.colours;
  const at = (i: number): [Rgb, number] => {
    if (i < BEYOND && below) return [hexToRgb(below), 1];
    if (i >= BEYOND + along && above) return [hexToRgb(above), 1];
    const value = scale.value(Math.min(1, Math.max(0, (i - BEYOND) / (along - 1))));
    return [scale.colour(value), scale.opacityOf(value)];
  };
  const row = Array.from({ length: width }, (_, i) => {
    const [rgb, opacity] = at(i);
    return [...rgb, opacity].map((v) => Math.round(255 * v));
  }).flat();
  const data = new Uint8Array(4 * width * ROWS);
  for (let r = 0; r < ROWS; r++) data.set(row, 4 * width * r);
  const place = (share: number): number => (BEYOND + 0.5 + share * (along - 1)) / width;
  const beyond = (BEYOND - 1) / (along - 1);
  const { low, high } = scale;
  const isEven = scale.spacing.kind === 'linear' && !scale.categories && high > low;
  // Of evenly spaced values that lie beyond the ends it matters how far, as those between corners are mixed of them.
  const line: AcrossLine | null = isEven
    ? { low, high, atLow: place(0), atHigh: place(1), least: place(-beyond), most: place(1 + beyond) }
    : null;
  return {
    picture: {
      type: 'image/png',
      bytes: Uint8Array.from(encode({ width, height: ROWS, data, channels: 4 })),
    },
    mixed,
    line,
    ends: [BEYOND / width, (BEYOND + along) / width],
    across(value) {
      if (!scale.knows(value)) return null;
      if (line) return acrossLine(line, value);
      return place(value < low ? -beyond : value > high ? 1 + beyond : scale.fraction(value));
    },
  };
}
