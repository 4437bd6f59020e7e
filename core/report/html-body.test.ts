import { describe, expect, it } from 'vitest';
import { chart, oven, report, seen } from '../../tests/sample-report.ts';
import { ownDrawing } from '../formats/xml/html-template.ts';
import { composeReport } from './compose.ts';
import { reportBody } from './html-body.ts';

const body = (facts = seen, to = report) =>
  String(reportBody(composeReport(to, facts), { picture: ({ key }) => `/${key}.png`, logo: null }));

describe('the page of a report', () => {
  it('has its figures with what they show in words, and links that lead to what is there', () => {
    const page = body();
    expect(page).toContain(`alt="${oven.alt}"`);
    expect(page).toContain('<b>Figure 1.</b> Section of chamber air');
    const targets = [...page.matchAll(/href="#([^"]+)"/g)].map((m) => m[1]);
    expect(targets.length).toBeGreaterThan(8);
    for (const target of targets) expect(page).toContain(`id="${target}"`);
  });
  it('shows names from files as words alone', () => {
    const evil = '"><script>alert(1)</script>';
    const hostile = new Map([
      ...seen,
      ['s', { ...oven, captions: { ...oven.captions, engineer: evil }, alt: evil }] as const,
    ]);
    const page = body(hostile, { ...report, name: evil });
    expect(page).not.toContain('<script');
    expect(page).toContain('&lt;script');
  });
});

describe('a drawing within a page', () => {
  it('is taken as it is where it is shapes and words', () => {
    expect(String(ownDrawing(chart.svg))).toBe(chart.svg);
  });
  it.each([
    ['a script', '<svg><script>alert(1)</script></svg>'],
    ['something to run', '<svg onload="alert(1)"></svg>'],
    ['something to run, without quotes', '<svg onload=alert(1)></svg>'],
    ['a page within', '<svg><foreignObject/></svg>'],
    ['a way out', '<svg><path href="http://example.org/"/></svg>'],
    ['a picture from elsewhere', '<svg><rect fill="url(http://example.org/a)"/></svg>'],
    ['something else', '<img src="x">'],
  ])('is refused with %s', (_, svg) => {
    expect(() => ownDrawing(svg)).toThrow('A drawing of the page');
  });
});
