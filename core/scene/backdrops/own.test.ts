import { describe, expect, it } from 'vitest';
import { hexToRgb, luminance } from '../../colour/cielab.ts';
import { contrastOfLuminances } from '../../colour/contrast.ts';
import { ownBackdrop } from './own.ts';
import { backdropOf } from './registry.ts';

const contrast = (a: string, b: string): number =>
  contrastOfLuminances(luminance(hexToRgb(a)), luminance(hexToRgb(b)));

describe('a backdrop of own colours', () => {
  it('is exactly what was chosen', () => {
    expect(backdropOf({ kind: 'own', top: '#0a3161', foot: '#c8e0ff' })).toMatchObject({
      top: '#0a3161',
      foot: '#c8e0ff',
      vignette: false,
    });
    expect(backdropOf({ kind: 'ink', top: '#0a3161', foot: '#c8e0ff' }).id).toBe('ink');
  });
  it('has words that stand out from it: dark on bright, bright on dark', () => {
    expect(luminance(hexToRgb(ownBackdrop('#ffffff', '#ffe9a0').ink))).toBeLessThan(0.1);
    expect(luminance(hexToRgb(ownBackdrop('#101820', '#2b2b2b').ink))).toBeGreaterThan(0.7);
  });
  // On a middle grey neither dark nor bright words reach the 4.5 to 1 of WCAG 2.2; there a plate does the rest, see ground.test.ts.
  it('has words that stand out by 3.5 to 1 at the least, whatever its grey', () => {
    for (let grey = 0; grey < 256; grey++) {
      const colour = `#${grey.toString(16).padStart(2, '0').repeat(3)}`;
      expect(contrast(ownBackdrop(colour, colour).ink, colour), colour).toBeGreaterThan(3.5);
    }
  });
});
