import { describe, expect, it } from 'vitest';
import { report, source } from '../../tests/sample-report.ts';
import { differences, withDifferences } from '../model/document-changes.ts';
import { emptyReport, type Report, reportForm, reportSchema } from './report.ts';
import { type ReportEdit, reportEditsSaid, sayable, sourceFor, withReportEdit } from './report-edits.ts';

const edited = (...edits: ReportEdit[]): Report => edits.reduce(withReportEdit, report);
const ids = ({ blocks }: Report): string[] => blocks.map((b) => b.id);

describe('edits of a report', () => {
  it('move a block to the place of another, up and down', () => {
    const before = ids(report);
    const up = edited({ type: 'block.move', id: 'f', to: 'h-sum' });
    expect(ids(up)).toEqual(['f', ...before.filter((id) => id !== 'f')]);
    const down = edited({ type: 'block.move', id: 'h-sum', to: 't-q' });
    expect(ids(down)).toEqual([...before.slice(1), 'h-sum']);
    expect(edited({ type: 'block.move', id: 'f', to: 'nowhere' })).toBe(report);
  });

  it('add behind what is chosen, with the source it shows, and take sources away that nothing shows any more', () => {
    const block = { id: 'new', kind: 'numbers', readers: null, source: 'x', gauges: null } as const;
    const added = edited({ type: 'block.add', block, after: 'h-sum', source: source('x', 'Hook') });
    expect(ids(added)[1]).toBe('new');
    expect(added.sources.map((s) => s.name)).toEqual(['Chamber', 'Fans', 'Lost', 'Hook']);
    const removed = withReportEdit(added, { type: 'block.remove', id: 'new' });
    expect(removed).toEqual(report);
    expect(ids(edited({ type: 'block.add', block, after: null })).at(-1)).toBe('new');
  });

  it('keep what was seen before for as long as nobody has compared it', () => {
    const once = edited({ type: 'source.seen', seen: { s: 'b' } });
    const twice = withReportEdit(once, { type: 'source.seen', seen: { s: 'c' } });
    expect(twice.sources[0]).toMatchObject({ seen: 'c', before: report.sources[0].seen });
    expect(withReportEdit(twice, { type: 'source.compared', id: 's' }).sources[0].before).toBeNull();
    expect(edited({ type: 'source.seen', seen: { s: report.sources[0].seen! } }).sources).toEqual(
      report.sources,
    );
  });

  it('rename a source in every text that names it, and in no other', () => {
    const texts = edited(
      {
        type: 'block.change',
        id: 't-q',
        change: {
          text: 'Chamber: {max temperature of Chamber in K:.1f}, {max temperature of Chamber 2}, {figure chamber}, {step}.',
        },
      },
      { type: 'block.change', id: 'f', change: { captions: { lay: '{max temperature of Chamber}' } } },
      { type: 'source.rename', id: 's', name: 'Oven (new)' },
    );
    const block = (id: string) => texts.blocks.find((b) => b.id === id);
    expect(block('t-q')).toMatchObject({
      text: 'Chamber: {max temperature of Oven (new) in K:.1f}, {max temperature of Chamber 2}, {figure Oven (new)}, {step}.',
    });
    expect(block('f')).toMatchObject({ captions: { lay: '{max temperature of Oven (new)}' } });
    expect(texts.sources[0].name).toBe('Oven (new)');
    expect(edited({ type: 'source.rename', id: 's', name: 'fans' })).toBe(report);
  });

  it('keep terms, and forget them', () => {
    const term = { id: 'a', term: 'loaf', plain: 'bread', meaning: '' };
    const kept = edited(
      { type: 'term.keep', term },
      { type: 'term.keep', term: { ...term, plain: 'a bread' } },
    );
    expect(kept.glossary).toEqual([{ ...term, plain: 'a bread' }]);
    expect(withReportEdit(kept, { type: 'term.remove', id: 'a' }).glossary).toEqual([]);
  });

  it('are all named, and lead to documents that can be kept and brought together', () => {
    for (const said of Object.values(reportEditsSaid)) expect(said).toMatch(/^[a-z]/);
    const changed = edited(
      { type: 'report.front', change: { subtitle: 'of bread' } },
      { type: 'block.move', id: 'f', to: 'h-sum' },
      { type: 'report.brand', change: { ink: '#000000' } },
    );
    expect(reportSchema.parse(changed)).toEqual(changed);
    const sent = differences(reportForm, report as never, changed as never);
    expect(withDifferences(reportForm, report as never, sent).document).toEqual(changed);
  });
});

describe('the source of something new', () => {
  it('is the one that is linked already, or another under a name of its own', () => {
    const again = sourceFor(report, { kind: 'shot', id: 'shot-s' }, 'Other', () => 'x');
    expect(again).toEqual({ source: report.sources[0], isNew: false });
    const other = sourceFor(report, { kind: 'shot', id: 'b' }, 'chamber', () => 'x');
    expect(other).toMatchObject({ isNew: true, source: { id: 'x', name: 'chamber 2', seen: null } });
    expect(sayable(' {a: b}\n')).toBe('a b');
    expect(sayable('{}')).toBe('source');
  });
});

describe('a report', () => {
  it('of nothing can be kept; one that is none is refused', () => {
    expect(reportSchema.parse(emptyReport('x'))).toEqual(emptyReport('x'));
    const broken = { ...report, blocks: [{ ...report.blocks[0], kind: 'dance' }] };
    expect(reportSchema.safeParse(broken).success).toBe(false);
    expect(
      reportSchema.safeParse({ ...report, brand: { ...report.brand, logo: 'http://x/y.png' } }).success,
    ).toBe(false);
  });
});
