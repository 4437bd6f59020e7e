import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { strFromU8, unzipSync } from 'fflate';
import mammoth from 'mammoth';
import { PNG } from 'pngjs';
import { afterAll, describe, expect, it } from 'vitest';
import { composeReport } from '#core/report/compose.ts';
import { type ReportFormatId, reportFormatOf, reportFormats } from '#core/report/report-formats.ts';
import { oven, report, seen } from '../../../../tests/sample-report.ts';
import { reportWriters } from './registry.ts';
import type { ReportToWrite } from './writer.ts';

const folder = mkdtempSync(join(tmpdir(), 'dresser-report-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const still = new AbortController().signal;

function picture(): Buffer {
  const png = new PNG({ width: 60, height: 40 });
  for (let i = 0; i < png.data.length; i += 4) png.data.set([180, 90, 40, 255], i);
  return PNG.sync.write(png);
}
const scripts = 'Печь λ 0,5 · فرن ساخن · オーブン · 🍞';
const what: ReportToWrite = {
  report: composeReport({ ...report, subtitle: scripts }, seen),
  brand: report.brand,
  picture: async () => picture(),
  living: async () => null,
};
const written = async (id: ReportFormatId, of = what): Promise<Uint8Array> => reportWriters[id](of, still);
const text = (bytes: Uint8Array): string => strFromU8(bytes);
const told = (command: string, ...args: string[]): string =>
  execFileSync(command, args, { encoding: 'utf8' });

describe('forms of a report', () => {
  it('are told by the ending of a file', () => {
    expect(
      ['a.HTML', 'a.pdf', 'a.pptx', 'a.docx', 'a.md', 'a.zip'].map((p) => reportFormatOf(p)?.id),
    ).toEqual(['html', 'pdf', 'slides', 'docx', 'markdown', 'markdown']);
    expect(reportFormatOf('a.txt')).toBeUndefined();
  });

  it.each(reportFormats.filter((f) => f.id !== 'pdf').map((f) => f.id))(
    'as %s are the same to the byte, but for dates',
    async (id) => {
      const plain = (bytes: Uint8Array): Uint8Array[] =>
        id === 'html'
          ? [bytes]
          : Object.entries(unzipSync(bytes)).map(([path, content]) =>
              // Where a package says when it was made (Dublin Core terms).
              path === 'docProps/core.xml'
                ? Buffer.from(text(content).replace(/\d{4}-\d\d-\d\dT[\d:.]+Z?/g, ''))
                : content,
            );
      const first = await written(id);
      await new Promise((done) => setTimeout(done, 1100));
      const second = await written(id);
      expect(plain(second).map((b) => Buffer.from(b).toString('base64'))).toEqual(
        plain(first).map((b) => Buffer.from(b).toString('base64')),
      );
    },
  );

  it.each(reportFormats.map((f) => f.id))('as %s stop when nobody waits for them any more', async (id) => {
    const gone = AbortSignal.abort(new Error('left'));
    await expect(reportWriters[id](what, gone)).rejects.toThrow('left');
  });
});

describe('a page in one file', () => {
  it('carries everything, and lets nothing else in', async () => {
    const page = text(await written('html'));
    expect(page).toMatch(/default-src (?:'|&apos;|&#39;)none/);
    expect(page.match(/src="data:image\/png;base64,/g)).toHaveLength(1);
    expect(page).toContain('font/woff2;base64,');
    expect(page).not.toMatch(/(?:src|href)="(?!#|data:)/);
    expect(page).toContain(`alt="${oven.alt}"`);
    expect(page).toContain(scripts);
  });
});

describe('a page with living figures', () => {
  const home = process.env.DRESSER_HOME;
  const viewer = 'say("</script><!-- ")';
  mkdirSync(join(folder, 'dist'));
  writeFileSync(join(folder, 'dist', 'living-viewer.js'), viewer);
  const living = async (): Promise<Buffer> => Buffer.from('packed');
  const page = async (of: Partial<ReportToWrite>): Promise<string> => {
    process.env.DRESSER_HOME = folder;
    try {
      return text(await written('html', { ...what, ...of }));
    } finally {
      if (home === undefined) delete process.env.DRESSER_HOME;
      else process.env.DRESSER_HOME = home;
    }
  };

  it('carries each once, and a script that its policy names by its hash (CSP 3, 2.3.1)', async () => {
    const found = await page({ living });
    expect(
      found.match(/<script type="application\/octet-stream" id="living-\w+">cGFja2Vk<\/script>/g),
    ).toHaveLength(1);
    const [, script] = /<script>([\s\S]*?)<\/script>/.exec(found)!;
    // Nothing in it ends its element, or begins a comment (HTML, 4.12.1.3).
    expect(script).toBe('say("<\\/script><\\!-- ")');
    const hash = createHash('sha256').update(script).digest('base64');
    expect(found.replaceAll('&#39;', "'").replaceAll('&apos;', "'")).toContain(`script-src 'sha256-${hash}'`);
    expect(found).toMatch(/<div class="living" id="living-of-f" data-living="\w+" data-name="Figure 1"><img/);
  });

  it('has neither script nor data where no figure is to be turned, or none can be', async () => {
    const still = {
      ...report,
      blocks: report.blocks.map((b) => (b.kind === 'figure' ? { ...b, living: false } : b)),
    };
    const pages = [await page({ living, report: composeReport(still, seen) }), await page({})];
    for (const found of pages) {
      expect(found).not.toContain('<script');
      expect(found).not.toContain('class="living"');
      expect(found).not.toContain('script-src');
    }
  });
});

describe('a PDF of a report, read by Poppler', () => {
  const pdfOf = async (): Promise<string> => {
    const path = join(folder, 'report.pdf');
    writeFileSync(path, await written('pdf'));
    return path;
  };
  it('has bookmarks, tags with alternative texts, fonts within, and words that are words', async () => {
    const path = await pdfOf();
    expect(told('pdfinfo', path)).toMatch(/Title:\s+Even baking[\s\S]*Tagged:\s+yes/);
    const words = told('pdftotext', '-layout', path, '-');
    for (const said of [
      'Up to 235 °C, see Figure 1 and Table 1.',
      'oven-1200',
      'Печь λ 0,5',
      '4.1 In numbers',
    ])
      expect(words).toContain(said);
    // What a chart says is words too.
    expect(words).toContain('tins & air');
    const fonts = told('pdffonts', path).trim().split('\n').slice(2);
    expect(fonts.some((f) => f.includes('Inter'))).toBe(true);
    expect(fonts.some((f) => f.includes('Newsreader'))).toBe(true);
    for (const font of fonts) expect(font).toMatch(/\byes (yes|no) yes\b/);
    const tags = told('pdfinfo', '-struct', path);
    for (const tag of ['H1', 'H2', 'H3', 'Figure', 'Table', 'TH', 'TD', 'Link'])
      expect(tags).toMatch(new RegExp(`\\b${tag}\\b`));
    // An alternative text is a string of its element (ISO 32000-1, 14.9.3), which nothing here prints.
    expect(readFileSync(path, 'latin1')).toContain(`/Alt (${oven.alt}`);
    expect(told('pdfimages', '-list', path).match(/^ +\d+ +\d+ image/gm)).toHaveLength(1);
    const outline = told('pdftohtml', '-xml', '-stdout', '-i', path);
    expect(outline).toMatch(/<outline>[\s\S]*Summary[\s\S]*Results[\s\S]*<\/outline>/);
  });
  it('is the same to the byte, but for dates', async () => {
    const dated = (bytes: Uint8Array): string =>
      Buffer.from(bytes)
        .toString('latin1')
        .replace(/\(D:\d{14}[^)]*\)/g, '');
    const first = dated(await written('pdf'));
    await new Promise((done) => setTimeout(done, 1100));
    expect(dated(await written('pdf')) === first).toBe(true);
  });
});

describe('a text document', () => {
  it('is read by another package with headings, tables, pictures and their words', async () => {
    const { value: page } = await mammoth.convertToHtml({ buffer: Buffer.from(await written('docx')) });
    expect(page).toMatch(/<h1>.*1 Summary<\/h1>/);
    expect(page).toMatch(/<h2>.*4\.1 In numbers<\/h2>/);
    expect(page.match(/<table>/g)).toHaveLength(2);
    expect(page).toContain('<td><p>oven-1200</p></td>');
    expect(page.match(/<img [^>]*src="data:image\/png/g)).toHaveLength(2);
    expect(page).toContain(`alt="${oven.alt}"`);
    expect(page).toContain(scripts);
  });
});

describe('slides of a report', () => {
  const parts = async (of = what) => unzipSync(await written('slides', of));
  it('have titles that are titles, tables and charts of the office, notes, and what is left out', async () => {
    const all = await parts();
    const slides = Object.keys(all).filter((n) => /^ppt\/slides\/slide\d+\.xml$/.test(n));
    const said = slides.map((n) => text(all[n]));
    expect(said.every((s) => s.includes('<p:ph') && s.includes('type="title"'))).toBe(true);
    expect(said.filter((s) => s.includes('<a:tbl>'))).toHaveLength(2);
    expect(said.join('')).toContain('Lost: the run is no longer there');
    const charts = Object.keys(all).filter((n) => /^ppt\/charts\/chart\d+\.xml$/.test(n));
    expect(charts).toHaveLength(1);
    const chart = text(all[charts[0]]);
    expect(chart).toContain('<c:scatterChart>');
    for (const value of ['180', '210.5']) expect(chart).toContain(`<c:v>${value}</c:v>`);
    const notes = Object.keys(all).filter((n) => /^ppt\/notesSlides\/.*\.xml$/.test(n));
    expect(notes.map((n) => text(all[n])).join('')).toContain(oven.alt);
  });
  it('spread long tables and texts over as many as they take', async () => {
    const rows = Array.from({ length: 40 }, (_, i) => ({ run: `oven-${i}`, cells: ['1', '2'] }));
    const long = new Map(seen).set('set', { ...(seen.get('set') as object), rows } as never);
    const all = await parts({ ...what, report: composeReport(report, long) });
    const said = Object.keys(all)
      .filter((n) => /^ppt\/slides\/slide\d+\.xml$/.test(n))
      .map((n) => text(all[n]));
    expect(said.filter((s) => /In numbers \(\d of 4\)/.test(s))).toHaveLength(4);
  });
});

describe('Markdown of a report', () => {
  it('is text with pictures beside it, in which nothing means what it should not', async () => {
    const starred = { ...report, name: 'Even *baking* <b>_all_</b>' };
    const all = unzipSync(await written('markdown', { ...what, report: composeReport(starred, seen) }));
    const page = text(all['report.md']);
    expect(page).toContain('# Even \\*baking\\* \\<b\\>\\_all\\_\\</b\\>');
    expect(page).toContain('| oven-1200 | 1200 | 40.09 |');
    const files = [...page.matchAll(/\]\((pictures\/[^)]+)\)/g)].map((m) => m[1]);
    expect(files.length).toBe(2);
    for (const file of files) expect(all[file]).toBeDefined();
  });
});
