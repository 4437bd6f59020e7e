import { type Rgb, toLinear } from '#core/colour/cielab.ts';
import type { Scene } from '#core/scene/document.ts';

export interface Backdrop {
  name: string;
  top: string;
  foot: string;
  /** Colour of words on it, and of the thin halo that keeps them legible over the model. */
  ink: string;
  halo: string;
}

export const backdrops: Record<Scene['backdrop'], Backdrop> = {
  paper: { name: 'paper', top: '#f3efe8', foot: '#ddd6cb', ink: '#2a2622', halo: 'rgb(243 239 232 / 0.75)' },
  mist: { name: 'mist', top: '#e9eef1', foot: '#c8d1d7', ink: '#20262b', halo: 'rgb(233 238 241 / 0.75)' },
  white: { name: 'white', top: '#ffffff', foot: '#ffffff', ink: '#1d1b19', halo: 'rgb(255 255 255 / 0.8)' },
  ink: { name: 'ink', top: '#33363b', foot: '#17181b', ink: '#f1ece4', halo: 'rgb(23 24 27 / 0.7)' },
};

/** `#rrggbb` as linear light. */
export function linearOf(hex: string): Rgb {
  return [1, 3, 5].map((at) => toLinear(Number.parseInt(hex.slice(at, at + 2), 16) / 255)) as Rgb;
}
