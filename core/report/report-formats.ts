import { documentFormats } from '../batch/document-formats.ts';

/** What a report is written as. */
export const reportFormats = [
  {
    id: 'html',
    name: 'Page (HTML)',
    ending: 'html',
    type: 'text/html',
    about: 'one file that opens anywhere, with no network',
  },
  ...documentFormats.map((format) => ({
    ...format,
    about:
      format.id === 'pdf'
        ? 'to print and to archive: bookmarks, tags, words and charts as lines'
        : 'titles, tables and charts that can be changed',
  })),
  {
    id: 'docx',
    name: 'Text document',
    ending: 'docx',
    type: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
    about: 'to be written on in a word processor',
  },
  {
    id: 'markdown',
    name: 'Markdown',
    ending: 'zip',
    type: 'application/zip',
    about: 'plain text beside its pictures, in a zip',
  },
] as const;

export type ReportFormat = (typeof reportFormats)[number];
export type ReportFormatId = ReportFormat['id'];

/** The format that a file is written in, by its ending. */
export const reportFormatOf = (path: string): ReportFormat | undefined =>
  reportFormats.find(({ ending }) => path.toLowerCase().endsWith(`.${ending}`)) ??
  (path.toLowerCase().endsWith('.md') ? reportFormats.find((f) => f.id === 'markdown') : undefined);
