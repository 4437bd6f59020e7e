import { describe, expect, it } from 'vitest';
import { fromLinear } from '../model/srgb.ts';
import { seenBy } from './colour-vision.ts';
import { confusedBy } from './confused-colours.ts';
import { contrastRatio } from './contrast.ts';
import { colourMapById } from './maps/registry.ts';

describe('colours that some eyes do not tell apart', () => {
  it('are red and green for those without red or green cones, and no greys', () => {
    // Along what the matrix for missing green cones takes away: one light for them, green and brown for others.
    const green = [0.1, 0.35, 0.1];
    const taken = [0.1941, -0.0813, 0.006];
    const brown = green.map((v, k) => v + 2 * taken[k]);
    const map = [green, brown].map((c) => c.map(fromLinear) as [number, number, number]);
    expect(confusedBy(map)).toContain('deutan');
    expect(confusedBy(map)).not.toContain('tritan');
    const grey = (v: number): [number, number, number] => [v, v, v];
    expect(confusedBy([grey(0), grey(0.5), grey(1)])).toEqual([]);
  });
  it('are none of maps that were made for everybody', () => {
    // Nuñez, Anderton and Renslow, PLOS ONE 13 (2018): cividis is made for red-green deficiency.
    expect(confusedBy(colourMapById('cividis').colours)).toEqual([]);
  });
  it('leaves greys as they are, as rows of the matrices add up to one (Machado et al. 2009, table 1)', () => {
    for (const vision of ['protan', 'deutan', 'tritan'] as const)
      for (const v of seenBy([0.5, 0.5, 0.5], vision)) expect(v).toBeCloseTo(0.5, 5);
  });
});

describe('contrast', () => {
  it('is 21 of black and white, and 4.54 of #767676 on white (WCAG 2.2, understanding 1.4.3)', () => {
    expect(contrastRatio([0, 0, 0], [1, 1, 1])).toBeCloseTo(21, 4);
    const grey = 0x76 / 255;
    expect(contrastRatio([grey, grey, grey], [1, 1, 1])).toBeCloseTo(4.54, 2);
  });
});
