import { phrasesOf } from '../../language/phrase.ts';
import { z } from '../../model/schema.ts';

/** Kinds of pictures an annotation can show; vectors stay sharp at any size. */
export const imageTypes = ['image/png', 'image/jpeg', 'image/webp', 'image/svg+xml'] as const;

/** Letters of a data address at most: three megabytes of a picture, so that a scene with several can still be sent. */
export const LARGEST_IMAGE = 4_000_000;

const isImage = (source: string): boolean =>
  source === '' || imageTypes.some((type) => source.startsWith(`data:${type};base64,`));

/** A picture that goes with the document: a data address, empty before one is chosen. */
export const imageSchema = z
  .string()
  .max(LARGEST_IMAGE)
  .refine(isImage, { error: 'a PNG, JPEG, WebP or SVG picture as a data address is expected here' });

const p = phrasesOf<{ image: string }>();
export const sayImage = p.quoted('image');
