import { blackWhite, cividis, inferno, magma, plasma, viridis } from '@colormap/presets';
import Color from 'colorjs.io';
import createColormap from 'colormap';
import { filterDeficiencyDeuter, filterDeficiencyProt, filterDeficiencyTrit } from 'culori';
import { describe, expect, it } from 'vitest';
import { lightness, luminance, type Rgb } from '#core/colour/cielab.ts';
import { seenBy } from '#core/colour/colour-vision.ts';
import { contrastRatio } from '#core/colour/contrast.ts';
import { mapFigures } from '#core/colour/map-figures.ts';
import { colourMapById, colourMaps } from '#core/colour/maps/registry.ts';
import { colourDifference, colourRamp } from '#core/colour/perceived.ts';
import { fromLinear, toLinear } from '#core/model/srgb.ts';

/** The library colorjs.io, which shares no code with the one the application computes with. */
const ofColorJs = (c: readonly number[]): Color => new Color('srgb', [c[0], c[1], c[2]]);
/** Its CIEDE2000 takes L*a*b* as it is given: here under D65, the white of screens, as ours. */
const lab = (c: readonly number[]): Color => new Color('lab', ofColorJs(c).to('lab-d65').coords);
const difference = (a: readonly number[], b: readonly number[]): number => lab(a).deltaE(lab(b), '2000');

const some: Rgb[] = [
  [0.1, 0.2, 0.7],
  [0.9, 0.5, 0.1],
  [0.02, 0.02, 0.02],
  [0.4, 0.8, 0.4],
  [1, 1, 1],
];

describe('what the eye sees', () => {
  it('differences, lightness and contrast are those of colorjs.io', () => {
    for (const a of some) {
      expect(lightness(a)).toBeCloseTo(ofColorJs(a).to('lab-d65').coords[0]!, 1);
      expect(luminance(a)).toBeCloseTo(ofColorJs(a).to('xyz-d65').coords[1]!, 3);
      for (const b of some) {
        if (a !== b) expect(colourDifference(a, b) / difference(a, b)).toBeCloseTo(1, 2);
        // WCAG 2.2, 1.4.3; the formula is that of 2.1.
        expect(contrastRatio(a, b)).toBeCloseTo(ofColorJs(a).contrast(ofColorJs(b), 'WCAG21'), 1);
      }
    }
  });
  it('mixtures in OKLab and CIE L*a*b* are those of colorjs.io', () => {
    for (const [space, theirs] of [
      ['oklab', 'oklab'],
      ['lab', 'lab-d65'],
      ['screen', 'srgb'],
    ] as const) {
      const ramp = colourRamp(
        [
          { at: 0, colour: some[0] },
          { at: 1, colour: some[1] },
        ],
        space,
        5,
      );
      const mix = ofColorJs(some[0]).range(ofColorJs(some[1]), { space: theirs, outputSpace: 'srgb' });
      for (let i = 0; i < 5; i++)
        expect(difference(ramp[i], mix(i / 4).coords as number[])).toBeLessThan(0.6);
    }
  });
});

describe('other eyes', () => {
  // Machado, Oliveira and Fernandes (2009), severity 1, as culori carries the matrices; it multiplies what it is given, so
  // that it is given linear light.
  const theirs = {
    protan: filterDeficiencyProt(1),
    deutan: filterDeficiencyDeuter(1),
    tritan: filterDeficiencyTrit(1),
  };
  for (const vision of ['protan', 'deutan', 'tritan'] as const)
    it(`that are ${vision} see by the published matrix`, () => {
      for (const c of some) {
        const [r, g, b] = c.map(toLinear);
        const seen = theirs[vision]({ mode: 'rgb', r, g, b });
        const ours = seenBy(c, vision);
        for (const [k, v] of [seen.r, seen.g, seen.b].entries())
          expect(ours[k]).toBeCloseTo(Math.min(1, fromLinear(Math.max(0, v))), 3);
      }
    });
  it('leave greys as they are, and a picture in grey keeps its luminance', () => {
    for (const v of [0.1, 0.5, 0.9])
      for (const vision of ['protan', 'deutan', 'tritan', 'grey'] as const)
        for (const channel of seenBy([v, v, v], vision)) expect(channel).toBeCloseTo(v, 2);
    for (const c of some) expect(luminance(seenBy(c, 'grey'))).toBeCloseTo(luminance(c), 4);
  });
});

describe('maps as packages of the registry carry them', () => {
  it('those made even in CAM02-UCS are the tables of @colormap/presets', () => {
    for (const [id, table] of Object.entries({ viridis, cividis, inferno, magma, plasma })) {
      const { colours } = colourMapById(id);
      // Theirs are the tables of 256; the one of cividis is another edition of it.
      const near = id === 'cividis' ? 4 : 0.7;
      for (let i = 0; i < 256; i += 5)
        expect(
          difference(colours[i], (table as number[][])[Math.round((i / 255) * (table.length - 1))]),
          id,
        ).toBeLessThan(near);
    }
    expect((blackWhite as number[][]).at(-1)).toEqual([1, 1, 1]);
  });
  it('those of the sea are what the package colormap makes of its tables', () => {
    const sea = colourMaps.filter((m) => m.id.startsWith('sea-'));
    expect(sea.length).toBeGreaterThanOrEqual(14);
    for (const { id, colours } of sea) {
      const table = createColormap({ colormap: id.slice(4), nshades: 256, format: 'rgba' });
      for (let i = 0; i < 256; i += 3)
        expect(
          difference(
            colours[i],
            table[i].slice(0, 3).map((v) => v / 255),
          ),
          `${id} ${i}`,
        ).toBeLessThan(1.5);
    }
  });
});

describe('maps that are said to be even', () => {
  /** Largest deviation of 32 steps from their mean, by colorjs.io. */
  const unevenness = (colours: readonly Rgb[]): number => {
    const taken = Array.from({ length: 33 }, (_, i) => {
      const at = (i / 32) * 255;
      const k = Math.min(254, Math.floor(at));
      return colours[k].map((c, j) => c + (at - k) * (colours[k + 1][j] - c));
    });
    const steps = taken.slice(1).map((c, i) => difference(c, taken[i]));
    const mean = steps.reduce((a, b) => a + b, 0) / 32;
    return Math.max(...steps.map((s) => Math.abs(s / mean - 1)));
  };
  // Largest deviation of a step in CIEDE2000. Ours were made even in that, the published ones in CAM02-UCS.
  const stated: Record<string, number> = {
    heat: 0.02,
    steam: 0.02,
    crust: 0.02,
    herb: 0.02,
    berry: 0.02,
    brine: 0.02,
    rain: 0.02,
    ground: 0.02,
    snow: 0.02,
    viridis: 0.35,
    cividis: 0.41,
    inferno: 0.77,
    magma: 0.66,
    plasma: 0.53,
    'frost-fire': 0.21,
    'moss-plum': 0.11,
    'teal-rust': 0.18,
    dial: 0.05,
    'day-night': 0.05,
    grey: 0.02,
    stone: 0.02,
    steel: 0.02,
  };
  it('are no less even than is stated here, by a library of its own', () => {
    const even = colourMaps.filter((m) => m.even);
    expect(even.map((m) => m.id).sort()).toEqual(Object.keys(stated).sort());
    for (const { id, colours, group } of even) {
      const theirs = unevenness(colours);
      expect(theirs, id).toBeLessThan(stated[id]);
      expect(Math.abs(mapFigures(colours, group).unevenness - theirs)).toBeLessThan(0.02);
    }
  });
  it('tell low from high by lightness, except those that go around', () => {
    for (const { id, colours, group } of colourMaps.filter((m) => m.even))
      expect(mapFigures(colours, group).ordered, id).toBe(group !== 'cyclic');
    for (const id of ['turbo', 'sea-jet'])
      expect(mapFigures(colourMapById(id).colours, 'multi-part').ordered).toBe(false);
  });
});
