import { describe, expect, it } from 'vitest';
import { type BatchWish, planBatch } from './batch-plan.ts';

const run = (n: number, steps = 3) => ({
  id: `run-${n}`,
  name: `case ${n}`,
  parameters: { fan: 300 * n },
  timeUnit: 's',
  steps: Array.from({ length: steps }, (_, i) => ({ time: 10 * i })),
});
const wish = (change: Partial<BatchWish> = {}): BatchWish => ({
  shots: [
    { id: 'a', name: 'Front', step: 1, film: null },
    { id: 'b', name: 'Section', step: 2, film: 48 },
  ],
  runs: [run(1), run(2)],
  steps: { kind: 'kept' },
  sizes: [{ width: 1280, height: 720 }],
  looks: [null],
  formats: [{ id: 'png', ending: 'png' }],
  films: [],
  names: '{run}/{shot}',
  ...change,
});
const paths = (w: BatchWish) => planBatch(w).drawings.flatMap((d) => d.files.map((f) => f.path));

describe('what a batch comes to', () => {
  it('is every shot of every run, run by run, each at its own step', () => {
    const { drawings, files, pixels, troubles } = planBatch(wish());
    expect(drawings.map((d) => [d.run, d.shot, d.step])).toEqual([
      ['run-1', 'a', 1],
      ['run-1', 'b', 2],
      ['run-2', 'a', 1],
      ['run-2', 'b', 2],
    ]);
    expect([files, pixels, troubles]).toEqual([4, 4 * 1280 * 720, []]);
    expect(paths(wish())).toEqual([
      'case-1/Front.png',
      'case-1/Section.png',
      'case-2/Front.png',
      'case-2/Section.png',
    ]);
  });

  it('is drawn once for all formats, and anew for every step, size and look', () => {
    const many = wish({
      steps: { kind: 'range', from: 1, to: null, every: 2 },
      sizes: [
        { width: 100, height: 100 },
        { width: 50, height: 20 },
      ],
      looks: [null, 'night'],
      formats: [
        { id: 'png', ending: 'png' },
        { id: 'tiff', ending: 'tif' },
      ],
      names: '{fan:.0f}/{shot}_{step}_{width}_{look}',
    });
    const { drawings, files, pixels, troubles } = planBatch(many);
    expect([drawings.length, files]).toEqual([2 * 2 * 2 * 2 * 2, 2 * 2 * 2 * 2 * 2 * 2]);
    expect(pixels).toBe((16 / 2) * 2 * (100 * 100 + 50 * 20));
    expect(troubles).toEqual([]);
    expect(drawings[0].files).toEqual([
      { format: 'png', path: '300/Front_1_100.png' },
      { format: 'tiff', path: '300/Front_1_100.tif' },
    ]);
    expect(new Set(paths(many)).size).toBe(files);
  });

  it('tells once what runs lack, what names do not tell apart, and what is not chosen', () => {
    const short = wish({
      runs: [run(1), run(2, 2)],
      steps: { kind: 'numbers', numbers: [2, 3] },
      names: '{shot}',
    });
    const { troubles, files } = planBatch(short);
    expect(files).toBe(2 * 2 + 2 * 1);
    expect(troubles).toEqual([
      'case 2 has 2 steps: there is no 3.',
      expect.stringMatching(/^3 files would be called “Front.png”/),
    ]);
    const none = planBatch(wish({ shots: [], runs: [], sizes: [], formats: [], looks: [] }));
    expect(none.troubles).toHaveLength(5);
    expect([none.files, none.pixels]).toEqual([0, 0]);
  });

  it('has a film of each shot in which something moves, whatever steps are wished', () => {
    const films = [{ id: 'mp4', ending: 'mp4' }];
    const { drawings, pixels, troubles } = planBatch(
      wish({ films, steps: { kind: 'range', from: 1, to: null, every: 1 } }),
    );
    const moving = drawings.filter((d) => d.film);
    expect(moving.map((d) => [d.run, d.shot, d.film, d.files[0].path])).toEqual([
      ['run-1', 'b', 48, 'case-1/Section.mp4'],
      ['run-2', 'b', 48, 'case-2/Section.mp4'],
    ]);
    expect(drawings).toHaveLength(2 * 2 * 3 + 2);
    expect(pixels).toBe((12 + 2 * 48) * 1280 * 720);
    expect(troubles.filter((t) => /film/.test(t))).toEqual([]);
  });

  it('can be films alone, and says where nothing moves', () => {
    const films = [{ id: 'gif', ending: 'gif' }];
    expect(paths(wish({ films, formats: [] }))).toEqual(['case-1/Section.gif', 'case-2/Section.gif']);
    const still = wish({ films, formats: [], shots: [{ id: 'a', name: 'Front', step: 1, film: null }] });
    expect(planBatch(still).troubles.join()).toMatch(/^Nothing moves in these shots/);
    expect(planBatch(still).files).toBe(0);
  });
});
