import { canvasWriter } from './canvas-writer.ts';
import { intoAvif } from './embed-about.ts';

/** AV1 image file format, where the browser writes it. */
export const avif = canvasWriter(
  { id: 'avif', name: 'AVIF', purpose: 'smallest, for web pages', ending: 'avif', opacity: true },
  'image/avif',
  { quality: 0.9, embed: intoAvif },
);
