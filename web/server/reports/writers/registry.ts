import type { ReportFormatId } from '#core/report/report-formats.ts';
import { writeDocx } from './docx.ts';
import { writeHtml } from './html.ts';
import { writeMarkdown } from './markdown.ts';
import { writePdf } from './pdf.ts';
import { writeSlides } from './slides.ts';
import type { WriteReport } from './writer.ts';

/** How each form of a report is written. */
export const reportWriters: Record<ReportFormatId, WriteReport> = {
  html: writeHtml,
  pdf: writePdf,
  slides: writeSlides,
  docx: writeDocx,
  markdown: writeMarkdown,
};
