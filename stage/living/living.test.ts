import { Raycaster, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import type { MaterialToWrite, ScaleToWrite } from '#core/formats/surfaces/scene-to-write.ts';
import type { LivingBody, LivingFigure } from '#core/report/living-figure.ts';
import { FigureBodies } from './figure-bodies.ts';
import { valueAt } from './figure-view.ts';
import { thinned } from './legend-bar.ts';
import { atPlace, atStep, momentOfChoice } from './moment-choice.ts';
import { sayProbed } from './say-probed.ts';

const scale: ScaleToWrite = {
  title: 'Temperature',
  unit: '°C',
  factor: 1,
  shift: -273.15,
  picture: 0,
  mixed: true,
  from: 0.1,
  to: 0.9,
  line: { low: 300, high: 400, atLow: 0.1, atHigh: 0.9, least: 0, most: 1 },
  ticks: [],
};
const look = { colour: '#aabbcc', opacity: 1, oneSided: false, clear: 0, picture: null } as MaterialToWrite;
const body: LivingBody = {
  name: 'loaf',
  kind: 'triangles',
  positions: Float32Array.of(0, 0, 0, 2, 0, 0, 0, 2, 0),
  normals: null,
  elements: Uint16Array.of(0, 1, 2),
  places: null,
  material: 0,
  // 300 + 10 x + 20 y
  values: { of: Float32Array.of(300, 320, 340), scale: 0 },
  step: null,
};
const drawnOf = (bodies: LivingBody[]) =>
  new FigureBodies(
    {
      figure: {
        shaded: true,
        scene: { bodies, materials: [look], scales: [scale] },
      } as unknown as LivingFigure,
      pictures: [{} as ImageBitmap],
    },
    4,
  );
const met = (of: LivingBody, x: number, y: number) => {
  const [drawn] = drawnOf([of]).drawn;
  const caster = new Raycaster(new Vector3(x, y, 5), new Vector3(0, 0, -1));
  caster.params.Line.threshold = 0.1;
  caster.params.Points.threshold = 0.1;
  const [hit] = caster.intersectObject(drawn.object);
  return valueAt(hit, drawn);
};

describe('reading a living figure', () => {
  it('mixes values within a face as they are drawn', () => {
    expect(met(body, 0.5, 0.25)).toBeCloseTo(310, 4);
    expect(met(body, 0.001, 1.99)).toBeCloseTo(300 + 0.01 + 39.8, 2);
  });

  it('mixes them along a line, and takes those of points as they are', () => {
    const lines: LivingBody = { ...body, kind: 'lines', elements: Uint16Array.of(1, 2, 0, 1) };
    expect(met(lines, 0.5, 0)).toBeCloseTo(305, 4);
    expect(met(lines, 1, 1)).toBeCloseTo(330, 4);
    const points: LivingBody = { ...body, kind: 'points', elements: Uint16Array.of(2, 1) };
    expect(met(points, 2, 0.01)).toBe(320);
    expect(met(points, 0, 2)).toBe(340);
  });

  it('is told in the unit of the legend, with the body and the place', () => {
    const said = sayProbed(
      { name: 'loaf', value: { is: 400.15, scale }, at: [0.123456, 0, -2] },
      { lengthUnit: 'm' },
    );
    expect(said).toEqual({ what: 'Temperature: 127 °C', where: 'loaf, at (0.1235, 0, −2) m' });
    expect(sayProbed({ name: 'rack', value: null, at: [1, 2, 3] }, { lengthUnit: null })).toEqual({
      what: 'rack',
      where: 'at (1, 2, 3)',
    });
  });

  it('shows what belongs to a moment, and what belongs to all', () => {
    const bodies = drawnOf([body, { ...body, step: 0 }, { ...body, step: 1 }]);
    bodies.show(1);
    expect(bodies.drawn.map((d) => d.object.visible)).toEqual([true, false, true]);
    // One array is one attribute on the card, however many bodies have it.
    const [first, second] = bodies.drawn.map((d) => d.object.geometry.getAttribute('position'));
    expect(first).toBe(second);
  });
});

describe('choosing what a living figure shows', () => {
  const figure = {
    moments: [
      { step: 1, place: 1 },
      { step: 0, place: 1 },
      { step: 2, place: 1 },
      { step: 1, place: 0 },
    ],
    shown: 0,
  };
  it('goes back to what there is where both are asked for', () => {
    expect(atStep(figure, 2, { step: 1, place: 1 })).toEqual({ step: 2, place: 1 });
    expect(atStep(figure, 2, { step: 1, place: 0 })).toEqual({ step: 2, place: 1 });
    expect(atPlace(figure, 0, { step: 2, place: 1 })).toEqual({ step: 1, place: 0 });
    expect(momentOfChoice(figure, { step: 1, place: 0 })).toBe(3);
    expect(momentOfChoice(figure, { step: 2, place: 1 })).toBe(2);
  });
});

describe('numbers of a legend', () => {
  it('are all of them or every so many, and keep away from each other', () => {
    const at = (every: number) =>
      Array.from({ length: Math.round(1 / every) + 1 }, (_, i) => ({ at: i * every, says: `${i}` }));
    expect(thinned(at(0.25)).map((t) => t.says)).toEqual(['0', '1', '2', '3', '4']);
    expect(thinned(at(0.1)).map((t) => t.says)).toEqual(['0', '2', '4', '6', '8', '10']);
    expect(thinned(at(0.05)).map((t) => t.says)).toEqual(['0', '3', '6', '9', '12', '15', '18']);
    expect(thinned([])).toEqual([]);
  });
});
