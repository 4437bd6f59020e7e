import { z } from '#core/model/schema.ts';

/** Longest small picture that is kept, in characters; ours have about a tenth of it. */
const LONGEST = 400_000;

/** A small picture as a data address. */
export const thumbnailSchema = z
  .string()
  .max(LONGEST, { message: 'The small picture is too large.' })
  .regex(/^data:image\/(png|jpeg|webp);base64,[A-Za-z0-9+/]*={0,2}$/, {
    message: 'The small picture is no PNG, JPEG or WebP.',
  });

/** What a data address holds, as a file of its own. */
export function pictureOfAddress(address: string): Response {
  const [, type, base64] = /^data:(image\/\w+);base64,(.*)$/s.exec(address)!;
  return new Response(Buffer.from(base64, 'base64'), {
    headers: { 'Content-Type': type, 'Cache-Control': 'no-cache' },
  });
}
