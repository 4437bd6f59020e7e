/** Colours of sheets that are painted on white paper, whatever the theme of the page. */
export const PAPER = '#ffffff';
export const INK = '#2a2622';
export const SOFT = '#6a6259';
