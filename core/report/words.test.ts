import { describe, expect, it } from 'vitest';
import { fans, oven } from '../../tests/sample-report.ts';
import { contrastTroubles, plainBrand } from './brand.ts';
import { changesOfFacts } from './changed-facts.ts';
import { inWordsOf, shippedTerms, termsIn } from './glossary.ts';
import { paragraphsOf } from './marked-text.ts';

describe('words of the trade', () => {
  it('give way to plain ones for everybody, as whole words, with their capitals, and leave numbers and units', () => {
    const said = 'Streamlines of velocity at 3.5 m/s; section at z = 0.4 m; cross-section; sections.';
    expect(inWordsOf('lay', said, [])).toBe(
      'Paths of the flow of speed and direction of the flow at 3.5 m/s; cut at z = 0.4 m; cross-section; sections.',
    );
    expect(inWordsOf('engineer', said, [])).toBe(said);
    expect(inWordsOf('customer', said, [])).toBe(said);
  });
  it('take the longest term first', () => {
    expect(inWordsOf('lay', 'Wall shear stress', [])).toBe('Rubbing of the flow on the wall');
  });
  it('are explained once each, in the order of the alphabet', () => {
    expect(termsIn(['The mesh of a section', 'a Mesh'], []).map((t) => t.term)).toEqual(['mesh', 'section']);
    expect(termsIn(['nothing'], [])).toEqual([]);
  });
  it('of one’s own may stay as they are', () => {
    const own = [{ id: 'a', term: 'section', plain: '', meaning: 'a cut' }];
    expect(inWordsOf('lay', 'section', own)).toBe('section');
    expect(termsIn(['section'], own)).toEqual([own[0]]);
  });
  it('that ship have plain words and a meaning each, and no two are the same', () => {
    for (const { plain, meaning } of shippedTerms)
      expect([plain, meaning].every((t) => t.length > 0)).toBe(true);
    expect(new Set(shippedTerms.map((t) => t.term.toLowerCase())).size).toBe(shippedTerms.length);
  });
});

describe('a text in Markdown', () => {
  const plain = (text: string) => [{ text }];
  it('has paragraphs, lists within lists, and emphasis', () => {
    expect(
      paragraphsOf('One **two** *three* [four](https://example.org/a).\n\n1. a\n   - b\n2. c', plain),
    ).toEqual([
      {
        kind: 'paragraph',
        words: [
          { text: 'One ' },
          { bold: true, text: 'two' },
          { text: ' ' },
          { italic: true, text: 'three' },
          { text: ' ' },
          { link: 'https://example.org/a', text: 'four' },
          { text: '.' },
        ],
      },
      {
        kind: 'list',
        ordered: true,
        items: [
          { depth: 0, words: [{ text: 'a' }] },
          { depth: 1, words: [{ text: 'b' }] },
          { depth: 0, words: [{ text: 'c' }] },
        ],
      },
    ]);
  });
  it('runs nothing and leads nowhere it should not', () => {
    const said = paragraphsOf(
      '[x](javascript:alert(1)) ![pic](http://a/b.png) <script>alert(1)</script>\n\n<b>bold</b>',
      plain,
    );
    const words = said.flatMap((p) => (p.kind === 'paragraph' ? p.words : []));
    expect(words.every((w) => w.link === undefined)).toBe(true);
    expect(words.map((w) => w.text).join('')).toContain('<script>');
  });
});

describe('what has changed of a source', () => {
  it('is said as before and after, and nothing where all is the same', () => {
    expect(changesOfFacts(oven, oven)).toEqual([]);
    const after = {
      ...oven,
      run: { id: 'b', name: 'oven-1800' },
      readings: [{ ...oven.readings[0], said: '190 °C' }],
      origin: { ...oven.origin, scales: [{ ...oven.origin.scales[0], high: 260 }] },
    };
    expect(changesOfFacts(oven, after)).toEqual([
      { what: 'Run', before: 'oven-1200-45', after: 'oven-1800' },
      { what: 'average of temperature over tins', before: '180.25 °C', after: '190 °C' },
      { what: 'force on door', before: 'These parts have no pressure.', after: '–' },
      { what: 'Scale of temperature', before: '20 to 240 °C on Heat', after: '20 to 260 °C on Heat' },
    ]);
  });
  it('is told of the runs of a set', () => {
    const after = { ...fans, rows: [fans.rows[0], { run: 'oven-1200', cells: ['1200', '39'] }] };
    expect(changesOfFacts(fans, after)).toEqual([
      { what: 'oven-1200', before: '1200, 40.09', after: '1200, 39' },
    ]);
  });
});

describe('colours of a house', () => {
  it('are told of where words would be hard to read (WCAG 2.2, 1.4.3: below 4.5)', () => {
    expect(contrastTroubles(plainBrand)).toEqual([]);
    // #777777 on white has 4.48, #767676 has 4.54 (as WCAG's own examples tell, from memory).
    expect(contrastTroubles({ ...plainBrand, ink: '#767676', backdrop: '#ffffff' })).toEqual([]);
    expect(contrastTroubles({ ...plainBrand, ink: '#777777', backdrop: '#ffffff' })).toHaveLength(2);
  });
});
