import type { DocumentFormat } from '#core/batch/document-formats.ts';
import type { WriteDocument } from './pages-to-write.ts';
import { writePdf } from './pdf.ts';
import { writeSlides } from './slides.ts';

/** How each document is written. */
export const documentWriters: Record<DocumentFormat['id'], WriteDocument> = {
  pdf: writePdf,
  slides: writeSlides,
};
