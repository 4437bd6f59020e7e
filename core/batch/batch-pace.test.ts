import { describe, expect, it } from 'vitest';
import type { BatchEntry } from './batch-log.ts';
import { estimateOf, paceOf } from './batch-pace.ts';

const made = (format: string, bytes: number, more: Partial<BatchEntry> = {}): BatchEntry =>
  ({ format, bytes, width: 1000, height: 500, seconds: 3, state: 'made', ...more }) as BatchEntry;
const drawing = (...formats: string[]) => ({
  shot: 's',
  run: 'r',
  step: 0,
  size: { width: 2000, height: 500 },
  look: null,
  files: formats.map((format) => ({ format, path: format })),
});

describe('how long a batch takes', () => {
  it('is told by the pixels and passes of what was made before it', () => {
    const pace = paceOf([made('png', 1000), made('png', 3000)], 4, null)!;
    // Two drawings of half a million pixels in four passes took six seconds.
    expect(pace).toEqual({ secondsPerPass: 1.5, bytes: { png: 0.004 } });
    const plan = { drawings: [drawing('png'), drawing('png')], pixels: 2e6 };
    expect(estimateOf(plan, 8, pace)).toEqual({ seconds: 24, bytes: 8000 });
  });
  it('counts a drawing of several formats once, and each of its files', () => {
    const pace = paceOf([made('png', 500), made('tiff', 5000)], 2, null)!;
    expect(pace).toEqual({ secondsPerPass: 3, bytes: { png: 0.001, tiff: 0.01 } });
    const plan = { drawings: [drawing('png', 'tiff')], pixels: 1e6 };
    expect(estimateOf(plan, 1, pace)).toEqual({ seconds: 3, bytes: 11_000 });
  });
  it('counts every picture of a film, beside those of the pictures', () => {
    const film = made('mp4', 48_000, { pictures: 24, seconds: 36 });
    // A picture of half a million pixels in three seconds, and 24 of them in 36: 12.5 million in 39.
    const pace = paceOf([made('png', 1000), film], 1, null)!;
    expect(pace.secondsPerPass).toBeCloseTo(39 / 12.5, 12);
    expect(pace.bytes.mp4).toBe(0.004);
    const plan = { drawings: [{ ...drawing('mp4'), film: 10 }], pixels: 1e7 };
    expect(estimateOf(plan, 1, pace).bytes).toBeCloseTo(40_000, 6);
  });
  it('is not known before anything was made, nor the size of what never was', () => {
    expect(paceOf([made('png', 1, { state: 'failed' })], 1, null)).toBeNull();
    expect(estimateOf({ drawings: [], pixels: 0 }, 1, null)).toEqual({ seconds: null, bytes: null });
    const pace = paceOf([made('png', 1000)], 1, null)!;
    expect(estimateOf({ drawings: [drawing('exr')], pixels: 1e6 }, 1, pace).bytes).toBeNull();
  });
  it('goes on knowing formats that were not made this time', () => {
    const before = { secondsPerPass: 9, bytes: { exr: 7 } };
    expect(paceOf([made('png', 500)], 1, before)!.bytes).toEqual({ exr: 7, png: 0.001 });
    expect(paceOf([], 1, before)).toBe(before);
  });
});
