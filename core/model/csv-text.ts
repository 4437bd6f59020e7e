/** A text as a cell of a table of comma-separated values (RFC 4180). */
export const csvCell = (text: string): string =>
  /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;

/** A table with its head, in lines. */
export const csvTable = (head: readonly string[], rows: readonly (readonly (string | number)[])[]): string =>
  [head, ...rows].map((row) => `${row.map((cell) => csvCell(String(cell))).join(',')}\n`).join('');
