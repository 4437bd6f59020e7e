import { describe, expect, it } from 'vitest';
import { filmFileNames, outletNamed, posterName, sayOutlet } from './film-names.ts';

const named = (id: string) => outletNamed(id === 'tiff' ? { pictures: id } : { film: id })!;

describe('names of the files of a film', () => {
  it('tell two films of one ending apart, and say what they are', () => {
    const outlets = ['mp4', 'av1', 'gif', 'tiff', 'hevc'].map(named);
    expect(filmFileNames('Warm oven', outlets)).toEqual([
      'Warm-oven.mp4',
      'Warm-oven.av1.mp4',
      'Warm-oven.gif',
      'Warm-oven.zip',
      'Warm-oven.hevc.mp4',
    ]);
    expect(filmFileNames('Warm oven', [named('av1')])).toEqual(['Warm-oven.mp4']);
    expect(outlets.map(sayOutlet)[3]).toBe('the pictures');
    expect(posterName('Warm oven')).toBe('Warm-oven.poster.png');
  });
  it('are none of a format that is gone', () => {
    expect(outletNamed({ film: 'reel-8' })).toBeNull();
    expect(outletNamed({ pictures: 'slide' })).toBeNull();
  });
});
