import { describe, expect, it } from 'vitest';
import { hexToRgb, luminance, type Rgb } from '#core/colour/cielab.ts';
import { contrastOfLuminances, LEGIBLE } from '#core/colour/contrast.ts';
import { ownBackdrop } from '#core/scene/backdrops/own.ts';
import { backdrops } from '#core/scene/backdrops/registry.ts';
import { backdrop } from '#core/scene/things/backdrop.ts';
import { type Behind, groundFor, toneOf } from './ground.ts';

/** A picture of which each pixel has a grey, 0..255. */
function picture(grey: (x: number, y: number) => number): Behind {
  const [width, height] = [60, 40];
  const pixels = new Uint8ClampedArray(4 * width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      pixels.set([grey(x, y), grey(x, y), grey(x, y), 255], 4 * (y * width + x));
  return { width, height, pixels };
}
const size = { width: 600, height: 400 };
const box = { x: 400, y: 100, width: 120, height: 200 };
const busy = picture((x, y) => (((x >> 1) + (y >> 1)) % 2 === 0 ? 20 : 235));

describe('words on what a backdrop shows', () => {
  const ink = (grey: number, kind = 'surroundings'): number =>
    luminance(
      hexToRgb(
        toneOf(
          { ...backdrop.plain, kind },
          picture(() => grey),
        ).ink,
      ),
    );
  it('are bright on the dark and dark on the bright', () => {
    expect(ink(30)).toBeGreaterThan(0.7);
    expect(ink(230)).toBeLessThan(0.1);
    expect(ink(30, 'picture')).toBeGreaterThan(0.7);
  });
  it('go by most of it, not by what is small and bright; and by its colours while it is not known', () => {
    const lamp = picture((x, y) => (x < 10 && y < 10 ? 255 : 25));
    expect(
      luminance(hexToRgb(toneOf({ ...backdrop.plain, kind: 'surroundings' }, lamp).ink)),
    ).toBeGreaterThan(0.7);
    const dark = { ...backdrop.plain, kind: 'picture', top: '#101010', foot: '#202020' };
    expect(luminance(hexToRgb(toneOf(dark, null).ink))).toBeGreaterThan(0.7);
  });
  it('of colours stay as these say, whatever stands before them', () => {
    expect(ink(30, 'paper')).toBeLessThan(0.1);
  });
});

describe('what lies behind words', () => {
  it('is nothing where the picture has the contrast by itself', () => {
    expect(
      groundFor(
        'as needed',
        '#26241f',
        '#f3efe8',
        picture(() => 235),
        box,
        size,
      ).kind,
    ).toBe('none');
    expect(
      groundFor(
        'as needed',
        '#f1ece4',
        '#17181b',
        picture(() => 20),
        box,
        size,
      ).kind,
    ).toBe('none');
  });
  it('looks only where the words are', () => {
    const dark = picture((x) => (x < 30 ? 0 : 240));
    expect(groundFor('as needed', '#26241f', '#f3efe8', dark, box, size).kind).toBe('none');
    expect(groundFor('as needed', '#26241f', '#f3efe8', dark, { ...box, x: 50 }, size).kind).toBe('plate');
  });
  // WCAG 2.2, success criterion 1.4.3: 4.5 to 1 for words of usual size.
  const own = ['#c8102e', '#7a7a7a', '#f6d400'].map((c) => ({ ...ownBackdrop(c, c), id: c }));
  for (const { id, ink, plate } of [...backdrops, ...own])
    it(`makes words on ${id} legible over light, dark and busy pictures`, () => {
      for (const [grey, behind] of [
        [[240], picture(() => 240)],
        [[10], picture(() => 10)],
        [[20, 235], busy],
        [[120], picture(() => 120)],
      ] as const) {
        const { kind, opacity } = groundFor('as needed', ink, plate, behind, box, size);
        for (const g of grey) {
          const [r, gr, b] = hexToRgb(plate).map(
            (v) => g / 255 + (kind === 'none' ? 0 : opacity) * (v - g / 255),
          );
          const contrast = contrastOfLuminances(luminance(hexToRgb(ink)), luminance([r, gr, b] as Rgb));
          expect(contrast).toBeGreaterThan(LEGIBLE - 0.15);
        }
      }
    });
  it('is as much as is needed and no more, and changes little with the picture', () => {
    let before = groundFor(
      'as needed',
      '#26241f',
      '#f3efe8',
      picture(() => 0),
      box,
      size,
    ).opacity;
    for (let g = 4; g < 256; g += 4) {
      const { opacity } = groundFor(
        'as needed',
        '#26241f',
        '#f3efe8',
        picture(() => g),
        box,
        size,
      );
      expect(opacity).toBeLessThanOrEqual(before + 0.01);
      expect(before - opacity).toBeLessThan(0.2);
      before = opacity;
    }
  });
  it('is what was asked for', () => {
    expect(groundFor('none', '#26241f', '#f3efe8', busy, box, size)).toEqual({ kind: 'none', opacity: 0 });
    for (const kind of ['plate', 'blur'] as const)
      expect(
        groundFor(
          kind,
          '#26241f',
          '#f3efe8',
          picture(() => 240),
          box,
          size,
        ),
      ).toMatchObject({ kind });
    expect(groundFor('as needed', '#26241f', '#f3efe8', null, box, size).kind).toBe('none');
  });
});
