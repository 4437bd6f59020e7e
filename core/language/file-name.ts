/** Some systems take no name as long as this, in UTF-8; what is cut off leaves room for a number and an ending. */
const MOST_BYTES = 200;

/** Names of devices, which one system keeps for itself whatever stands behind them. */
const DEVICE = /^(con|prn|aux|nul|com\d|lpt\d)$/i;

/** A name that every file system takes, without its ending: of letters, digits, dots, dashes and underlines. */
export function fileName(name: string, empty = 'picture'): string {
  const plain = name
    .normalize('NFC')
    .replace(/[^\p{L}\p{M}\p{N}._ -]+/gu, ' ')
    .trim()
    .replace(/\s+/g, '-')
    .replace(/^[.-]+|[._-]+$/g, '');
  const short = cutToBytes(plain, MOST_BYTES);
  return DEVICE.test(short) ? `${short}-` : short || empty;
}

function cutToBytes(text: string, most: number): string {
  let bytes = 0;
  let kept = '';
  for (const letter of text) {
    bytes += new TextEncoder().encode(letter).length;
    if (bytes > most) return kept;
    kept += letter;
  }
  return kept;
}
