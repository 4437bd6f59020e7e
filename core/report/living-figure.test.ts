import { describe, expect, it } from 'vitest';
import type { BodyToWrite, ScaleToWrite } from '../formats/surfaces/scene-to-write.ts';
import { coarseToFine, livingBody, momentsInOrder, spreadOver } from './living-figure.ts';

describe('moments of a living figure', () => {
  it('are all steps where there are few, else some from end to end with that of the picture', () => {
    expect(spreadOver(4, 24, 2)).toEqual([0, 1, 2, 3]);
    expect(spreadOver(101, 5, 50)).toEqual([0, 25, 50, 75, 100]);
    expect(spreadOver(101, 5, 30)).toEqual([0, 30, 50, 75, 100]);
    // Near an end the end stays.
    expect(spreadOver(101, 5, 1)).toEqual([0, 1, 50, 75, 100]);
    expect(spreadOver(1000, 24, 613)).toHaveLength(24);
    expect(new Set(spreadOver(25, 24, 13)).size).toBe(24);
  });

  it('come so that any beginning of them is spread over all', () => {
    expect(coarseToFine([0, 1, 2, 3, 4, 5, 6, 7, 8])).toEqual([0, 8, 4, 2, 6, 1, 3, 5, 7]);
    expect(coarseToFine(['a', 'b'])).toEqual(['a', 'b']);
    expect(coarseToFine([])).toEqual([]);
    for (const count of [3, 5, 10, 24])
      expect(coarseToFine([...Array(count).keys()]).sort((a, b) => a - b)).toEqual([...Array(count).keys()]);
  });

  it('are other steps and other places of the section by turns, never both at once', () => {
    const order = momentsInOrder([0, 1, 2], [0, 1, 2, 3], { step: 1, place: 2 });
    expect(order).toEqual([
      { step: 0, place: 2 },
      { step: 1, place: 0 },
      { step: 2, place: 2 },
      { step: 1, place: 3 },
      { step: 1, place: 1 },
    ]);
    expect(momentsInOrder([0, 3], [], { step: 3, place: null })).toEqual([{ step: 0, place: null }]);
  });
});

describe('a body on its way into a page', () => {
  const line = { low: 0, high: 1, atLow: 0.1, atHigh: 0.9, least: 0, most: 1 };
  const scales = [{ line }, { line: null }] as ScaleToWrite[];
  const body: BodyToWrite = {
    name: 'tin',
    kind: 'triangles',
    positions: new Float32Array(9),
    normals: Float32Array.of(1, 0, -1, 0.5, 0, 0, 0, 1, 0),
    elements: Uint32Array.of(0, 1, 2),
    places: new Float32Array(6),
    material: 0,
    values: { of: Float32Array.of(20.125, 1 / 3, 0), scale: 0 },
    step: 0,
  };

  it('keeps its values to the bit, and its normals as finely as an eye can tell', () => {
    const living = livingBody(body, { scales });
    expect(living.values!.of).toBe(body.values!.of);
    expect([...living.normals!].slice(0, 4)).toEqual([32767, 0, -32767, 16384]);
    expect(living.elements).toBeInstanceOf(Uint16Array);
    const many = { ...body, positions: new Float32Array(3 * 65_537) };
    expect(livingBody(many, { scales }).elements).toBeInstanceOf(Uint32Array);
  });

  it('leaves out places that follow from its values, and no others', () => {
    expect(livingBody(body, { scales }).places).toBeNull();
    expect(livingBody({ ...body, values: { of: body.values!.of, scale: 1 } }, { scales }).places).toBe(
      body.places,
    );
    expect(livingBody({ ...body, values: null }, { scales }).places).toBe(body.places);
  });
});
