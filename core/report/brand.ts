import { hexToRgb } from '../colour/cielab.ts';
import { contrastRatio, LEGIBLE } from '../colour/contrast.ts';
import { boundedNumber } from '../model/bounded-number.ts';
import { z } from '../model/schema.ts';

const colour = z.string().regex(/^#[0-9a-f]{6}$/i);

/** Faces that ship with the application. */
export const brandFonts = ['plain', 'book'] as const;

export const brandSchema = z.object({
  heading: z.enum(brandFonts),
  body: z.enum(brandFonts),
  ink: colour,
  paper: colour,
  accent: colour,
  /** Of the page a document opens with. */
  backdrop: colour,
  /** PNG, JPEG or WebP as a data address; null for none. */
  logo: z
    .string()
    .max(2_000_000)
    .regex(/^data:image\/(png|jpeg|webp);base64,[A-Za-z0-9+/]*={0,2}$/)
    .nullable(),
  /** Of a printed page, in millimetres. */
  margin: boundedNumber().min(5).max(50),
});

/** The same under a name, for other reports. */
export const keptBrandSchema = brandSchema.extend({ name: z.string().trim().min(1).max(100) });
export type KeptBrand = z.infer<typeof keptBrandSchema>;

/** How documents of a house look. */
export type Brand = z.infer<typeof brandSchema>;

export const plainBrand: Brand = {
  heading: 'book',
  body: 'plain',
  ink: '#2a2622',
  paper: '#ffffff',
  accent: '#a4431f',
  backdrop: '#f6f1e8',
  logo: null,
  margin: 20,
};

/** What of the colours is hard to read (WCAG 2.2, success criterion 1.4.3). */
export function contrastTroubles({ ink, paper, accent, backdrop }: Brand): string[] {
  const pairs = [
    { says: 'Words on the page', of: ink, on: paper },
    { says: 'Words on the front', of: ink, on: backdrop },
    { says: 'Links on the page', of: accent, on: paper },
  ];
  return pairs.flatMap(({ says, of, on }) => {
    const ratio = contrastRatio(hexToRgb(of), hexToRgb(on));
    return ratio >= LEGIBLE
      ? []
      : [`${says} have a contrast of ${ratio.toFixed(1)}; below ${LEGIBLE} they are hard to read.`];
  });
}
