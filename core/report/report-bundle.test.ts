import { describe, expect, it } from 'vitest';
import { report } from '../../tests/sample-report.ts';
import { type ReportBundle, readReportBundle, runsForBundle } from './report-bundle.ts';

const scene = (run: string) => ({ kind: 'scene' as const, name: 'x', run, scene: {}, film: null });
const bundle: ReportBundle = {
  dresser: 'report',
  version: 1,
  report,
  linked: { s: scene('oven'), gone: scene('hook'), set: { kind: 'set', name: 'Fans', set: {} } },
};
const runs = (...names: string[]) => names.map((name) => ({ id: `id-${name}`, name }));
const meant = (...names: string[]) => Object.fromEntries(runsForBundle(bundle, runs(...names)));

describe('a report file', () => {
  it('is read as it was written, and says what is wrong with one that is none', () => {
    expect(readReportBundle(JSON.stringify(bundle), 'a.json')).toEqual(bundle);
    for (const [text, why] of [
      ['{', 'not JSON'],
      ['{}', 'no report file: dresser'],
      [JSON.stringify({ ...bundle, version: 9 }), 'no report file: version'],
    ]) {
      const told = expect.objectContaining({ reason: expect.stringContaining(why), where: 'a.json' });
      expect(() => readReportBundle(text, 'a.json')).toThrow(told);
    }
  });
  it('finds runs by their names, or takes the only one, or those that stand in the same order', () => {
    expect(meant('hook', 'oven')).toEqual({ s: 'id-oven', gone: 'id-hook' });
    expect(meant('new')).toEqual({ s: 'id-new', gone: 'id-new' });
    expect(meant('new oven', 'new hook')).toEqual({ s: 'id-new oven', gone: 'id-new hook' });
    expect(meant('oven', 'other')).toEqual({ s: 'id-oven', gone: null });
  });
});
