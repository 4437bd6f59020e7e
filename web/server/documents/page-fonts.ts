import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { create, type Font } from 'fontkit';

/** The letters of the screen come in files by script; each is asked in this order. */
const SCRIPTS = [
  'latin',
  'latin-ext',
  'greek',
  'greek-ext',
  'cyrillic',
  'cyrillic-ext',
  'vietnamese',
] as const;
const WEIGHTS = { plain: 400, bold: 600 } as const;

export type Weight = keyof typeof WEIGHTS;

/** What measures letters. */
type LetterFont = Pick<PageFont, 'name' | 'font'>;

interface PageFont {
  name: string;
  bytes: Buffer;
  font: Font;
}

/** Fonts that go into documents, by weight. */
export type PageFonts = Record<Weight, PageFont[]>;

let loaded: Promise<PageFonts> | null = null;

/** The fonts of the screen, read once. */
export function pageFonts(): Promise<PageFonts> {
  loaded ??= (async () => ({ plain: await fontsOf('plain'), bold: await fontsOf('bold') }))();
  return loaded;
}

const fontsOf = (weight: Weight): Promise<PageFont[]> =>
  Promise.all(
    SCRIPTS.map(async (script) => {
      const name = `inter-${script}-${WEIGHTS[weight]}-normal`;
      const path = createRequire(import.meta.url).resolve(`@fontsource/inter/files/${name}.woff`);
      const bytes = await readFile(path);
      return { name, bytes, font: create(bytes) as Font };
    }),
  );

/** A part of a text whose letters all come from one font. */
export interface FontRun {
  font: string;
  text: string;
}

/** Cuts a text where another font has to take over; letters that no font has stay with the first. */
export function fontRuns(text: string, fonts: readonly LetterFont[]): FontRun[] {
  const runs: FontRun[] = [];
  for (const letter of text) {
    const code = letter.codePointAt(0)!;
    const last = runs.at(-1);
    const before = last && fonts.find((f) => f.name === last.font);
    if (last && before?.font.hasGlyphForCodePoint(code)) {
      last.text += letter;
      continue;
    }
    const { name } = fonts.find((f) => f.font.hasGlyphForCodePoint(code)) ?? fonts[0];
    if (last?.font === name) last.text += letter;
    else runs.push({ font: name, text: letter });
  }
  return runs;
}

/** How wide a text is, in the unit of its size. */
export const widthOfText = (text: string, size: number, fonts: readonly LetterFont[]): number =>
  fontRuns(text, fonts).reduce((sum, run) => sum + widthOfRun(run, size, fonts), 0);

/** The same of a part that comes from one font. */
export function widthOfRun({ font, text }: FontRun, size: number, fonts: readonly LetterFont[]): number {
  const own = fonts.find((f) => f.name === font)!.font;
  return (own.layout(text).advanceWidth / own.unitsPerEm) * size;
}
