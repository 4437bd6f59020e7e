import { canvasWriter } from './canvas-writer.ts';
import { intoWebp } from './embed-about.ts';

export const webp = canvasWriter(
  { id: 'webp', name: 'WebP', purpose: 'small, with opacity, for web pages', ending: 'webp', opacity: true },
  'image/webp',
  { quality: 0.95, embed: intoWebp },
);
