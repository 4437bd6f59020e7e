import { describe, expect, it } from 'vitest';
import { oven, report, seen, source } from '../../tests/sample-report.ts';
import { openFindings } from '../preflight/registry.ts';
import type { Finding } from '../preflight/rule.ts';
import { composeReport, type SeenFacts } from './compose.ts';
import type { SceneFacts } from './facts.ts';
import { provenanceOf } from './provenance.ts';
import type { Report } from './report.ts';
import { withReportEdit } from './report-edits.ts';
import { reportFindings } from './report-preflight.ts';

const found = (of: Report, facts: SeenFacts = seen, stale: string[] = []): Finding[] =>
  reportFindings(of, composeReport(of, facts), facts, new Set(stale));
const open = (...given: Parameters<typeof found>): string[] =>
  openFindings(found(...given)).map((f) => f.rule);

const shown = report.blocks.flatMap((b) => (b.kind === 'figure' && b.id === 'f' ? [b] : []))[0];
const figure = (id: string, of: string): Report['blocks'][number] => ({ ...shown, id, source: of });

/** The report with another figure behind its own, of a scene with other facts. */
function withAnother(change: Partial<SceneFacts>): [Report, SeenFacts] {
  const other: SceneFacts = { ...oven, findings: [], ...change };
  return [
    {
      ...report,
      blocks: [...report.blocks, figure('another', 'other')],
      sources: [...report.sources, source('other', 'Other oven')],
    },
    new Map([...seen, ['other', other]]),
  ];
}

describe('the preflight of a report', () => {
  it('has what is found in its figures, under the name that its reader sees', () => {
    const [finding] = openFindings(found(report));
    expect(finding).toMatchObject({
      rule: 'saturated',
      place: { kind: 'figure', id: shown.id, name: 'Figure 1, temperature' },
    });
    expect(finding.says).toMatch(/^Figure 1\. temperature: 2 %/);
    expect(finding.mend).toBeUndefined();
    // What its scene waives stays waived; a caption stands in the place of a title.
    expect(
      found(report)
        .filter((f) => f.waived !== null)
        .map((f) => f.waived),
    ).toEqual(['a first run']);
    const untitled: Finding = { ...finding, rule: 'no title' };
    expect(open(report, new Map([...seen, [shown.source, { ...oven, findings: [untitled] }]]))).toEqual([]);
  });
  it('passes over figures that its reader does not see', () => {
    const hidden = { ...report, blocks: report.blocks.map((b) => (b === shown ? { ...b, readers: [] } : b)) };
    expect(open(hidden)).toEqual([]);
    expect(open({ ...report, blocks: [] })).toEqual([]);
    const unseen = new Map([...seen, [shown.source, 'not looked at yet'] as const]);
    expect(open(report, unseen)).toEqual([]);
  });
  it('compares the ranges of its figures, and knows which are out of date', () => {
    const [scale] = oven.origin.scales;
    expect(open(...withAnother({}))).toEqual(['saturated']);
    const other = { ...oven.origin, scales: [{ ...scale, high: 200 }] };
    expect(open(...withAnother({ origin: other }))).toContain('different ranges');
    expect(open(report, seen, [shown.source])).toContain('stale figure');
  });
  it('reads all its texts, the appendix as well', () => {
    const said = { ...report, subtitle: 'after /home/maria/ovens/run-7' };
    expect(found(said)[0].says).toBe(
      'the front of the report says “/home/maria/ovens/run-7”: a folder of a machine.',
    );
    const careful = withReportEdit(report, { type: 'report.checks', change: { inHouse: ['oven.vtu'] } });
    expect(open(careful)).toContain('leak');
    expect(open(report)).not.toContain('leak');
  });
  it('is waived with a reason that stands in the appendix', () => {
    const [finding] = openFindings(found(report));
    const waived = [{ rule: finding.rule, of: finding.place.name, reason: 'the door is of no interest' }];
    const meant = withReportEdit(report, { type: 'report.checks', change: { waived } });
    expect(open(meant)).toEqual([]);
    const entries = provenanceOf(meant, (id) => {
      const facts = seen.get(id);
      return typeof facts === 'object' ? facts : null;
    });
    const told = entries.flatMap((e) =>
      e.facts.filter((f) => f.label === 'Meant to be so').flatMap((f) => f.values),
    );
    expect(told).toContain('Figure 1, temperature, much lies beyond the range: the door is of no interest');
    expect(told).toContain('“Section of chamber air” has coarse cells. a first run');
  });
});
