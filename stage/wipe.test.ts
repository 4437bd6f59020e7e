import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isOnSide, type Wipe, wipe } from '#core/scene/things/wipe.ts';
import type { Tile } from './picture-camera.ts';
import { halvesOf } from './wipe.ts';

type Line = Parameters<typeof halvesOf>[0]['layers'][number];

const line = (side: Line['wipe'], visible = true) => ({ wipe: side, visible }) as Line;
const divided = (change: Partial<Wipe>) => ({
  layers: [line('both'), line('before'), line('after')],
  wipe: { ...wipe.plain, ...change },
});
const size = { width: 200, height: 100 };
const whole: Tile = { x: 0, y: 0, ...size };
const holds = ({ x, y, width, height }: Tile, px: number, py: number): boolean =>
  px >= x && px < x + width && py >= y && py < y + height;

describe('the halves of a picture', () => {
  it('are all of it where no line is on one side only', () => {
    const all = [{ side: 'both', window: whole, tile: whole }];
    expect(halvesOf({ layers: [line('both')], wipe: wipe.plain }, size, whole)).toEqual(all);
    expect(
      halvesOf({ layers: [line('both'), line('before', false)], wipe: wipe.plain }, size, whole),
    ).toEqual(all);
  });

  it('lie left and right of it, or above and below, and see a little further', () => {
    expect(halvesOf(divided({ place: 0.25 }), size, whole)).toEqual([
      { side: 'before', window: { ...whole, width: 50 }, tile: { ...whole, width: 74 } },
      { side: 'after', window: { ...whole, x: 50, width: 150 }, tile: { ...whole, x: 26, width: 174 } },
    ]);
    // What goes upwards has come a quarter of the way from the foot.
    expect(halvesOf(divided({ place: 0.25, way: 'upwards' }), size, whole)).toEqual([
      { side: 'after', window: { ...whole, height: 75 }, tile: { ...whole, height: 99 } },
      { side: 'before', window: { ...whole, y: 75, height: 25 }, tile: { ...whole, y: 51, height: 49 } },
    ]);
  });

  it('are one at its beginning and at its end', () => {
    const sideAt = (place: number) => halvesOf(divided({ place }), size, whole).map((h) => h.side);
    expect([sideAt(1), sideAt(0)]).toEqual([['before'], ['after']]);
  });

  it('cover every pixel of every tile once, from the side that is told of its place', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.constantFrom('across' as const, 'upwards' as const),
        fc.integer({ min: 0, max: 150 }),
        fc.integer({ min: 0, max: 80 }),
        fc.integer({ min: 1, max: 50 }),
        fc.integer({ min: 1, max: 20 }),
        (place, way, x, y, width, height) => {
          const scene = divided({ place, way });
          const tile = { x, y, width, height };
          const halves = halvesOf(scene, size, tile);
          for (let py = y; py < y + height; py++)
            for (let px = x; px < x + width; px++) {
              const there = halves.filter((h) => holds(h.window, px, py));
              expect(there.length).toBe(1);
              const [{ side, tile: seen }] = there;
              expect(holds(seen, px, py) && holds(tile, px, py)).toBe(true);
              // Rounded to whole pixels, the middle of a pixel may lie on the edge itself.
              const middle = way === 'across' ? px + 0.5 : size.height - py - 0.5;
              if (Math.abs(middle - place * (way === 'across' ? size.width : size.height)) > 0.51)
                expect(isOnSide(side, scene.wipe, (px + 0.5) / size.width, (py + 0.5) / size.height)).toBe(
                  true,
                );
            }
          for (const { tile: seen, window } of halves) {
            expect(seen.x >= x && seen.x + seen.width <= x + width).toBe(true);
            expect(seen.y >= y && seen.y + seen.height <= y + height).toBe(true);
            expect(window.width > 0 && window.height > 0).toBe(true);
          }
        },
      ),
      { numRuns: 60 },
    );
  });
});
