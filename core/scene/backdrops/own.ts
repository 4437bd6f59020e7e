import { hexToRgb, luminance } from '../../colour/cielab.ts';
import { contrastOfLuminances } from '../../colour/contrast.ts';
import type { Backdrop } from './backdrop.ts';
import { ink } from './ink.ts';
import { white } from './white.ts';

/**
 * A backdrop from one colour to another, exactly as they were chosen: a house colour stays one. Words on it are dark or
 * bright, whichever stands out more from that of its ends from which it stands out less (ratio of WCAG 2).
 *
 * @param top, foot `#rrggbb`
 */
export function ownBackdrop(top: string, foot: string): Backdrop {
  const ends = [top, foot].map((c) => luminance(hexToRgb(c)));
  const least = (words: string): number =>
    Math.min(...ends.map((l) => contrastOfLuminances(l, luminance(hexToRgb(words)))));
  const { ink: words, halo, plate } = least(ink.ink) > least(white.ink) ? ink : white;
  return {
    id: 'own',
    name: top === foot ? 'a plain colour' : 'two colours',
    top,
    foot,
    vignette: false,
    ink: words,
    halo,
    plate,
  };
}
