import { canvasWriter } from './canvas-writer.ts';
import { intoPng } from './embed-about.ts';

/** Portable Network Graphics: 8 bits a channel, sRGB, with opacity. */
export const png = canvasWriter(
  { id: 'png', name: 'PNG', purpose: 'without loss, for documents', ending: 'png', opacity: true },
  'image/png',
  { embed: intoPng },
);
