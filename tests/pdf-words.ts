import { execFileSync } from 'node:child_process';

/** The words of a PDF, each line of a page in one piece, as Poppler reads them. */
export const wordsOfPdf = (bytes: Buffer): string =>
  execFileSync('pdftotext', ['-layout', '-', '-'], { input: bytes, encoding: 'utf8' });
