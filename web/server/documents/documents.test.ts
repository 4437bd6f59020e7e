import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { strFromU8, unzipSync } from 'fflate';
import { PNG } from 'pngjs';
import { afterAll, describe, expect, it } from 'vitest';
import { type SheetPage, stripPages } from '#core/sets/sheet-layout.ts';
import { fontRuns, pageFonts } from './page-fonts.ts';
import { writePdf } from './pdf.ts';
import { writeSlides } from './slides.ts';

const folder = mkdtempSync(join(tmpdir(), 'dresser-documents-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** A picture of one colour, with an alpha channel as those of the stage have. */
function picture(red: number): Buffer {
  const png = new PNG({ width: 60, height: 40 });
  for (let i = 0; i < png.data.length; i += 4) png.data.set([red, 90, 40, 255], i);
  return PNG.sync.write(png);
}

const labels = ['fan 900 rpm, vent 15 °', 'Backofen größer, λ = 0,5 W/(m·K)', 'Печь №3', 'ΔT = 12 K'];
const pages: SheetPage[] = stripPages({
  title: 'Ovens of the week',
  statement: 'One colour scale for all: temperature from 20 to 240 °C',
  items: labels.map((label, row) => ({ row, label })),
  picture: { width: 300, height: 200 },
  across: 2,
  down: 1,
});
/** The last one was not drawn. */
const what = {
  title: 'Ovens of the week',
  pages,
  picture: async (row: number) =>
    row === 3 ? null : { bytes: picture(40 * (row + 1)), type: 'image/png' as const },
};
const still = new AbortController().signal;

async function pdfOf(): Promise<string> {
  const path = join(folder, 'sheet.pdf');
  writeFileSync(path, await writePdf(what, still));
  return path;
}
const told = (command: string, ...args: string[]): string =>
  execFileSync(command, args, { encoding: 'utf8' });

describe('a PDF, read by Poppler', () => {
  it('has its pages in their sizes, its title, and is tagged', async () => {
    const info = told('pdfinfo', await pdfOf());
    expect(info).toMatch(/Title:\s+Ovens of the week/);
    expect(info).toMatch(/Tagged:\s+yes/);
    expect(info).toMatch(/Pages:\s+2/);
    const [, width, height] = /Page size:\s+([\d.]+) x ([\d.]+) pts/.exec(info)!;
    expect(Number(width)).toBeCloseTo(pages[0].width * 0.75, 1);
    expect(Number(height)).toBeCloseTo(pages[0].height * 0.75, 1);
  });

  it('has no page larger than readers take', async () => {
    const [page] = pages;
    const wide = { ...what, pages: [{ ...page, width: 60_000 }] };
    const path = join(folder, 'wide.pdf');
    writeFileSync(path, await writePdf(wide, still));
    const [, width] = /Page size:\s+([\d.]+) x/.exec(told('pdfinfo', path))!;
    expect(Number(width)).toBeCloseTo(14_400, 1);
  });

  it('holds words as words, in every script the screen has, with their fonts within', async () => {
    const path = await pdfOf();
    const text = told('pdftotext', '-layout', path, '-');
    for (const label of [...labels, 'Ovens of the week, 1 of 2', 'not drawn']) expect(text).toContain(label);
    const fonts = told('pdffonts', path).trim().split('\n').slice(2);
    expect(fonts.length).toBeGreaterThan(1);
    for (const font of fonts) expect(font).toMatch(/\byes yes yes\b/);
  });

  it('holds the pictures to the last pixel', async () => {
    const path = await pdfOf();
    told('pdfimages', '-png', path, join(folder, 'out'));
    const list = told('pdfimages', '-list', path);
    expect(list.match(/^ +\d+ +\d+ image/gm)).toHaveLength(3);
    const first = PNG.sync.read(readFileSync(join(folder, 'out-000.png')));
    expect([first.width, first.height]).toEqual([60, 40]);
    expect([...first.data.subarray(0, 3)]).toEqual([40, 90, 40]);
  });

  it('says in its tags what pictures show', async () => {
    const tags = told('pdfinfo', '-struct-text', await pdfOf());
    expect(tags.match(/Figure/g)).toHaveLength(3);
    expect(tags).toContain('H1');
  });
});

describe('slides, as a package of parts (ISO/IEC 29500)', () => {
  const parts = async () => unzipSync(await writeSlides(what, still));

  it('are one for each page, with words that can be changed', async () => {
    const all = await parts();
    const slides = Object.keys(all).filter((name) => /^ppt\/slides\/slide\d+\.xml$/.test(name));
    expect(slides).toHaveLength(pages.length);
    const text = slides.map((name) => strFromU8(all[name])).join('');
    for (const label of labels) expect(text).toContain(`<a:t>${label}</a:t>`);
    expect(text).toContain('<a:t>not drawn</a:t>');
  });

  it('hold the very pictures, with what they show for those who cannot see them', async () => {
    const all = await parts();
    const media = Object.keys(all).filter((name) => /^ppt\/media\/./.test(name));
    const bytes = media.map((name) => Buffer.from(all[name]).toString('base64')).sort();
    expect(bytes).toEqual([0, 1, 2].map((row) => picture(40 * (row + 1)).toString('base64')).sort());
    expect(strFromU8(all['ppt/slides/slide1.xml'])).toContain(`descr="${labels[0]}"`);
  });
});

describe('documents that nobody waits for any more', () => {
  it('are not written', async () => {
    const gone = AbortSignal.abort(new Error('left'));
    await expect(writePdf(what, gone)).rejects.toThrow('left');
    await expect(writeSlides(what, gone)).rejects.toThrow('left');
  });
});

describe('fonts for a text', () => {
  it('change only where they must', async () => {
    const { plain } = await pageFonts();
    expect(fontRuns('fan 900 rpm', plain)).toHaveLength(1);
    const runs = fontRuns('Печь 3 λ', plain);
    expect(runs.map((r) => r.text).join('')).toBe('Печь 3 λ');
    expect(runs.map((r) => r.font)).toEqual([
      'inter-cyrillic-400-normal',
      'inter-latin-400-normal',
      'inter-greek-400-normal',
    ]);
  });
});
