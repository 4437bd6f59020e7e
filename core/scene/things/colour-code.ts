import { z } from '../../model/schema.ts';

/** A colour as `#rrggbb`, as screens mean it (sRGB). */
export const colourSchema = z.string().regex(/^#[0-9a-f]{6}$/i);
