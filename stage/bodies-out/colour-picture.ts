import { encode } from 'fast-png';
import { hexToRgb, type Rgb } from '#core/colour/cielab.ts';
import type { CompiledScale } from '#core/colour/compiled-scale.ts';
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
  return {
    picture: {
      type: 'image/png',
      bytes: Uint8Array.from(encode({ width, height: ROWS, data, channels: 4 })),
    },
    mixed,
    across: (value) => {
      const place = placeOf(scale, value, (BEYOND - 1) / (along - 1));
      return place === null ? null : (BEYOND + 0.5 + place * (along - 1)) / width;
    },
  };
}

/** Where a value lies along a scale, 0 and 1 being its ends, at most so far beyond them; null for no place. */
function placeOf(scale: CompiledScale, value: number, beyond: number): number | null {
  if (!scale.knows(value)) return null;
  const { low, high } = scale;
  // Of evenly spaced values that lie beyond the ends it matters how far, as those between corners are mixed of them.
  if (scale.spacing.kind === 'linear' && !scale.categories && high > low)
    return Math.min(1 + beyond, Math.max(-beyond, (value - low) / (high - low)));
  if (value < low) return -beyond;
  return value > high ? 1 + beyond : scale.fraction(value);
}
