import { canvasWriter } from './canvas-writer.ts';
import { intoJpeg } from './embed-about.ts';

/** JPEG at a quality at which nothing is seen to be lost; it keeps no opacity. */
export const jpeg = canvasWriter(
  { id: 'jpeg', name: 'JPEG', purpose: 'small, for mail', ending: 'jpg', opacity: false },
  'image/jpeg',
  { quality: 0.95, embed: intoJpeg },
);
