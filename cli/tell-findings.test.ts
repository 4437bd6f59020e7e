import { describe, expect, it } from 'vitest';
import type { Finding } from '#core/preflight/rule.ts';
import { notesOf, sayFinding } from './tell-findings.ts';

const finding = (rule: string, change: Partial<Finding> = {}): Finding => ({
  rule,
  severity: 'moderate',
  place: { kind: 'picture', id: null, name: 'the picture' },
  says: `It has ${rule}.`,
  remedy: 'Mend it.',
  waived: null,
  ...change,
});

describe('what is told of what is given out', () => {
  it('is what is so, what to do and the rule; of what is waived why', () => {
    expect(sayFinding(finding('no unit'))).toBe('It has no unit. Mend it. [no unit]');
    expect(sayFinding(finding('no unit', { waived: 'for the poster' }))).toBe(
      'It has no unit. Meant to be so: for the poster [no unit]',
    );
  });

  it('leaves out what is waived, and what only could be better', () => {
    const findings = [
      finding('no unit'),
      finding('leak', { waived: 'asked for' }),
      finding('no title', { severity: 'minor' }),
      finding('wrong frame', { severity: 'serious' }),
    ];
    expect(notesOf([{ of: 'step 1', findings }])).toEqual([
      'It has no unit. Mend it. [no unit]',
      'It has wrong frame. Mend it. [wrong frame]',
    ]);
    expect(notesOf([])).toEqual([]);
  });

  it('names where it is so among several, and says once what is so in all', () => {
    const notes = notesOf([
      { of: 'step 1', findings: [finding('no unit'), finding('saturated')] },
      { of: 'step 2', findings: [finding('no unit')] },
      { of: 'step 3', findings: [finding('no unit'), finding('saturated'), finding('saturated')] },
    ]);
    expect(notes).toEqual([
      'everywhere: It has no unit. Mend it. [no unit]',
      'step 1, step 3: It has saturated. Mend it. [saturated]',
    ]);
  });
});
