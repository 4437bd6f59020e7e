import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import type { Brand } from '#core/report/brand.ts';

const packages: Record<Brand['heading'], { name: string; family: string }> = {
  plain: { name: 'inter', family: 'Inter' },
  book: { name: 'newsreader', family: 'Newsreader' },
};

/** Weights and slants that reports are set in. */
const faces = [
  { weight: 400, style: 'normal' },
  { weight: 400, style: 'italic' },
  { weight: 600, style: 'normal' },
] as const;

/**
 * The fonts of a page as a style that carries them within: of each no more than the scripts that its words need. Each weight is a
 * font of its own: one that varies would come into a PDF as drawings of its letters.
 */
export async function embeddedFonts(fonts: readonly Brand['heading'][], text: string): Promise<string> {
  const require = createRequire(import.meta.url);
  const letters = new Set([...text].map((letter) => letter.codePointAt(0)!));
  const out: string[] = [];
  for (const font of new Set(fonts)) {
    const { name, family } = packages[font];
    const home = `@fontsource/${name}`;
    const ranges: Record<string, string> = JSON.parse(
      await readFile(require.resolve(`${home}/unicode.json`), 'utf8'),
    );
    for (const [script, range] of Object.entries(ranges)) {
      if (!isNeeded(range, letters)) continue;
      for (const { weight, style } of faces) {
        const path = require.resolve(`${home}/files/${name}-${script}-${weight}-${style}.woff2`);
        const bytes = await readFile(path);
        out.push(
          `@font-face{font-family:'${family}';font-weight:${weight};font-style:${style};src:url(data:font/woff2;base64,${bytes.toString('base64')}) format('woff2');unicode-range:${range}}`,
        );
      }
    }
  }
  return out.join('\n');
}

/** Whether any of some letters lies in a range such as `U+0000-00FF,U+0131`. */
function isNeeded(range: string, letters: ReadonlySet<number>): boolean {
  const spans = range.split(',').map((part) => {
    const [from, to] = part
      .replace(/^U\+/i, '')
      .split('-')
      .map((hex) => Number.parseInt(hex, 16));
    return [from, to ?? from];
  });
  for (const letter of letters) if (spans.some(([from, to]) => letter >= from && letter <= to)) return true;
  return false;
}
