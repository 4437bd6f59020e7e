import { describe, expect, it } from 'vitest';
import { oven, report, seen } from '../../tests/sample-report.ts';
import { PROGRAM_VERSION } from '../model/program-version.ts';
import { composeReport, plainWords } from './compose.ts';
import type { ComposedBlock, ComposedReport } from './composed.ts';
import type { Report } from './report.ts';
import { withReportEdit } from './report-edits.ts';
import { shippedTemplates } from './template.ts';

const composed = (to: Partial<Report> = {}): ComposedReport => composeReport({ ...report, ...to }, seen);
const told = (template: keyof typeof shippedTemplates): ComposedReport =>
  composed({ template: shippedTemplates[template] });
const block = (all: ComposedReport, id: string): ComposedBlock =>
  all.sections.flatMap((s) => s.blocks).find((b) => b.id === id)!;
const captionOf = (all: ComposedReport, id: string): string =>
  plainWords((block(all, id) as Extract<ComposedBlock, { kind: 'figure' }>).caption);
const textOf = (all: ComposedReport, id: string): string => {
  const [first] = (block(all, id) as Extract<ComposedBlock, { kind: 'text' }>).paragraphs;
  return first.kind === 'paragraph' ? plainWords(first.words) : '';
};

describe('a report as its readers read it', () => {
  it('has its sections in the order of the template, those below them along, and what is for others left out', () => {
    expect(told('review').sections.map((s) => s.title)).toEqual([
      'Summary',
      'Question',
      'Method',
      'Results',
      'In numbers',
    ]);
    const customer = told('customer');
    expect(customer.sections.map((s) => s.title)).toEqual(['Summary', 'Results', 'In numbers', 'Method']);
    expect(block(customer, 't-meth')).toBeUndefined();
    expect(told('lay').sections.map((s) => s.title)).toEqual([
      'Question',
      'Results',
      'In numbers',
      'Summary',
    ]);
  });

  it('numbers sections, figures and tables as they stand in it, and refers to them so', () => {
    const review = told('review');
    expect(review.sections.map((s) => s.number)).toEqual(['1', '2', '3', '4', '4.1']);
    const numberOf = (id: string) => (block(review, id) as { number: string | null }).number;
    expect(['f', 'c', 'r', 'runs'].map(numberOf)).toEqual(['Figure 1', 'Figure 2', 'Table 1', 'Table 2']);
    expect(textOf(review, 't-sum')).toBe('Up to 235 °C, see Figure 1 and Table 1.');
    const [first] = (block(review, 't-sum') as Extract<ComposedBlock, { kind: 'text' }>).paragraphs;
    expect(first.kind === 'paragraph' && first.words.filter((w) => w.to).map((w) => w.to)).toEqual([
      'f',
      'r',
    ]);
    const lay = told('lay');
    expect(lay.sections.every((s) => s.number === null)).toBe(true);
    expect(textOf(lay, 't-sum')).toBe('Up to 235 °C, see figure 1 and table 1.');
    // What is referred to has its number, so that it is found; the chart has none.
    expect(['f', 'c', 'r'].map((id) => (block(lay, id) as { number: string | null }).number)).toEqual([
      'Figure 1',
      null,
      'Table 1',
    ]);
  });

  it('says what cannot be shown, does not count it, and tells the rest', () => {
    const all = told('review');
    expect(block(all, 'f-lost')).toEqual({
      kind: 'missing',
      id: 'f-lost',
      says: 'Lost: the run is no longer there',
    });
    expect(all.troubles).toEqual([{ block: 'f-lost', says: 'Lost: the run is no longer there' }]);
    expect(all.figureList.map((f) => f.id)).toEqual(['f', 'c', 'r', 'runs']);
  });

  it('says of a figure what is shown, to each in their words, and leaves alone what was written by hand', () => {
    expect(captionOf(told('review'), 'f')).toBe(
      'Section of chamber air at z = 0.4 m, temperature; step 25, t = 50 s. Temperature from 20 to 240 °C.',
    );
    expect(captionOf(told('lay'), 'f')).toBe(
      'Cut of chamber air at z = 0.4 m, coloured by temperature after 50 s.',
    );
    const byHand = withReportEdit(
      { ...report, template: shippedTemplates.lay },
      {
        type: 'block.change',
        id: 'f',
        change: { captions: { lay: 'The oven, {max temperature of Chamber in K:.0f} K.' } },
      },
    );
    expect(captionOf(composeReport(byHand, seen), 'f')).toBe('The oven, 508 K.');
    expect(captionOf(composeReport({ ...byHand, template: shippedTemplates.review }, seen), 'f')).toMatch(
      /^Section/,
    );
  });

  it('explains the terms that stand in it, its own before those that are known', () => {
    const glossary = [
      { id: 'g', term: 'chamber air', plain: 'air in the oven', meaning: 'What the tins stand in.' },
    ];
    const lay = composed({ template: shippedTemplates.lay, glossary });
    expect(captionOf(lay, 'f')).toBe(
      'Cut of air in the oven at z = 0.4 m, coloured by temperature after 50 s.',
    );
    expect(lay.glossary.map((t) => t.term)).toEqual(['chamber air', 'section']);
    expect(told('review').glossary).toEqual([]);
  });

  it('tells of readings and runs in tables, and of what has no number why', () => {
    const review = told('review');
    expect(block(review, 'r')).toMatchObject({
      rows: [
        ['average of temperature over tins', '180.25 °C'],
        ['force on door', 'no value'],
      ],
      notes: [
        'average of temperature over tins: Look again: coarse.',
        'force on door: These parts have no pressure.',
      ],
    });
    expect(block(review, 'runs')).toMatchObject({
      columns: [{ name: 'Run' }, { name: 'fan, rpm' }, { name: 'spread, °C' }],
      rows: [
        ['oven-600', '600', '68.27'],
        ['oven-1200', '1200', '40.09'],
      ],
    });
    expect(block(told('customer'), 'runs')).toMatchObject({ notes: [] });
    expect(block(review, 'n')).toMatchObject({ items: [{ said: '180.25 °C' }] });
  });

  it('says where everything comes from', () => {
    const [first, second, own, ...others] = told('review').provenance;
    expect(others).toEqual([]);
    expect(own).toEqual({
      source: 'The report',
      facts: [{ label: 'Made with', values: [`Dresser ${PROGRAM_VERSION}`] }],
    });
    expect(Object.fromEntries(first.facts.map((f) => [f.label, f.values]))).toEqual({
      Run: ['oven-1200-45'],
      Files: [`oven.vtu, 924063 bytes, SHA-256 ${'27'.repeat(32)}`],
      Steps: ['60 steps, t = 2 to 120 s'],
      Shown: ['step 25, t = 50 s'],
      'Colour scales': ['temperature from 20 to 240 °C on Heat'],
      'Stated in the picture': ['displacement × 20'],
      'Meant to be so': ['“Section of chamber air” has coarse cells. a first run'],
    });
    expect(second).toEqual({ source: 'Fans', facts: [{ label: 'Runs', values: ['oven-600', 'oven-1200'] }] });
    expect(told('lay').provenance).toEqual([]);
  });

  it('leaves standing what is not understood of a text, and says why', () => {
    const all = composed({
      blocks: [
        {
          id: 't',
          kind: 'text',
          readers: null,
          text: '{peak of Chamber}, {mean wetness of Chamber}, {force of Chamber:.1f}',
        },
      ],
    });
    expect(textOf(all, 't')).toBe('{peak of Chamber}, –, (1.0, −2.0, 0.5)');
    expect(all.troubles).toEqual([
      { block: 't', says: expect.stringContaining('There is no value “peak of Chamber”') },
    ]);
  });

  it('does not refer to what its readers do not see', () => {
    const blocks = report.blocks.map((b) => (b.id === 'f' ? { ...b, readers: ['customer' as const] } : b));
    const all = composed({ blocks });
    expect(textOf(all, 't-sum')).toBe('Up to 235 °C, see – and Table 1.');
    expect(all.troubles.map((t) => t.block)).toEqual(['t-sum', 'f-lost']);
  });

  it('has nothing in it where nothing was put in', () => {
    const empty = composed({ blocks: [], sources: [] });
    expect(empty).toMatchObject({ sections: [], contents: [], figureList: [], provenance: [], troubles: [] });
  });

  it('says of a scene without charts or gauges what to do', () => {
    const bare = new Map([...seen, ['s', { ...oven, charts: [], readings: [] }] as const]);
    const all = composeReport(report, bare);
    for (const id of ['c', 'n', 'r'])
      expect(block(all, id)).toMatchObject({ kind: 'missing', says: expect.stringContaining('in Gauges') });
  });
});
