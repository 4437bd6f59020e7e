import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isTidy } from '../../tests/tidy-page.ts';
import { type BatchReport, reportPages } from './report-pages.ts';

const made = (count: number, more: Partial<BatchReport> = {}): BatchReport => ({
  title: 'Ovens',
  statements: [`${count} pictures`, 'One colour scale for all runs'],
  shots: [{ id: 'front', name: 'Front', statement: 'temperature from 20 to 240' }],
  pictures: Array.from({ length: count }, (_, i) => ({
    shot: 'front',
    run: `oven ${i}`,
    aspect: 1.5,
    facts: [`fan ${900 + i} rpm`, 'step 2 at 10 s'],
    notes: [],
  })),
  table: {
    columns: ['run', 'fan [rpm]'],
    rows: Array.from({ length: count }, (_, i) => [`oven ${i}`, String(900 + i)]),
  },
  failures: [],
  ...more,
});
const titles = (report: BatchReport): string[] => reportPages(report).map((p) => p.texts[0].text);
const words = (report: BatchReport): string[] =>
  reportPages(report).flatMap((p) => p.texts.map((t) => t.text));

describe('the report of a batch', () => {
  it('has a front, the runs, each shot of all runs, each picture by itself, and what failed', () => {
    const report = made(2, { failures: ['Front, oven 7: the file is cut off. Write it again.'] });
    expect(titles(report)).toEqual([
      'Ovens',
      'Runs',
      'Front, all runs',
      'Front: oven 0',
      'Front: oven 1',
      'What was not made',
    ]);
    expect(words(report)).toContain('fan 901 rpm; step 2 at 10 s');
    expect(words(report)).toContain('Front, oven 7: the file is cut off. Write it again.');
  });

  it('shows every picture large once, and once among the others', () => {
    const rows = reportPages(made(30)).flatMap((p) => p.pictures.map((q) => q.row));
    for (let i = 0; i < 30; i++) expect(rows.filter((row) => row === i)).toHaveLength(2);
  });

  it('has every run in its table, on as many pages as that takes', () => {
    const said = words(made(50));
    for (let i = 0; i < 50; i++) expect(said).toContain(`oven ${i}`);
    expect(titles(made(50)).filter((t) => t.startsWith('Runs'))).toEqual([
      'Runs, 1 of 3',
      'Runs, 2 of 3',
      'Runs, 3 of 3',
    ]);
  });

  it('makes pictures together as large as they can be', () => {
    const widths = [1, 2, 4, 6, 12].map((count) => reportPages(made(count + 1))[2].pictures[0].width);
    // Two of them take half the page each, more of them less.
    expect(widths[0]).toBeGreaterThan(700);
    expect([...widths].sort((a, b) => b - a)).toEqual(widths);
  });

  it('says how many columns do not fit', () => {
    const columns = ['run', ...Array.from({ length: 10 }, (_, i) => `input ${i}`)];
    const said = words(made(1, { table: { columns, rows: [columns.map(() => '1')] } }));
    expect(said).toContain('1 in all; 2 more columns are not shown');
  });

  it('is one page of words where nothing was made', () => {
    expect(titles(made(0))).toEqual(['Ovens']);
  });

  it('has nothing over each other or off the page, and no picture out of shape', () => {
    const text = fc.string({ maxLength: 400 });
    const picture = fc.record({
      shot: fc.constantFrom('front', 'side'),
      run: text,
      aspect: fc.double({ min: 0.1, max: 10, noNaN: true }),
      facts: fc.array(text, { maxLength: 6 }),
      notes: fc.array(text, { maxLength: 3 }),
    });
    fc.assert(
      fc.property(
        fc.array(picture, { maxLength: 15 }),
        fc.array(text, { maxLength: 30 }),
        (pictures, failures) => {
          const shots = ['front', 'side'].map((id) => ({ id, name: id, statement: '' }));
          const pages = reportPages(made(0, { pictures, failures, shots }));
          for (const page of pages) {
            expect(isTidy(page)).toBe(true);
            for (const { row, width, height } of page.pictures)
              expect(width / height).toBeCloseTo(pictures[row].aspect, 6);
          }
        },
      ),
    );
  });
});
