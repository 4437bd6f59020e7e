/** For whom a document is written: the same facts are said in their words. */
export const readers = ['engineer', 'customer', 'lay'] as const;
export type Reader = (typeof readers)[number];

export const readersSaid: Readonly<Record<Reader, string>> = {
  engineer: 'engineers',
  customer: 'customers',
  lay: 'everybody',
};
