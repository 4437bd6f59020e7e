/** Documents that pages of pictures are written to. */
export const documentFormats = [
  { id: 'pdf', name: 'PDF', ending: 'pdf', type: 'application/pdf' },
  {
    id: 'slides',
    name: 'Slides',
    ending: 'pptx',
    type: 'application/vnd.openxmlformats-officedocument.presentationml.presentation',
  },
] as const;

export type DocumentFormat = (typeof documentFormats)[number];

/** Formats of pictures that every document takes; the first that there is goes in. */
export const PICTURES_IN_DOCUMENTS = ['png', 'jpeg'] as const;

/** The format that a file is written in, by its ending. */
export const documentFormatOf = (path: string): DocumentFormat | undefined =>
  documentFormats.find(({ ending }) => path.toLowerCase().endsWith(`.${ending}`));
