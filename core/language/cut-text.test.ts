import { describe, expect, it } from 'vitest';
import { cutText } from './cut-text.ts';

const letters = (text: string): number => [...text].length;

describe('a text that is cut', () => {
  it('stays as it is where it fits', () => {
    expect(cutText('fan_rpm 1200', 12, letters)).toBe('fan_rpm 1200');
  });

  it('ends in dots, within its width, without a space before them', () => {
    expect(cutText('chamber air', 9, letters)).toBe('chamber…');
    expect(letters(cutText('a long name of a run', 7, letters))).toBeLessThanOrEqual(7);
  });

  it('keeps one letter whatever the width, and never half of one', () => {
    expect(cutText('🔥🔥🔥', 2, letters)).toBe('🔥…');
    expect(cutText('oven', 0, letters)).toBe('o…');
  });
});
