/**
 * As much of a text as fits into a width, with dots where something is left out.
 *
 * @param widthOf in the unit of `width`
 */
export function cutText(text: string, width: number, widthOf: (text: string) => number): string {
  if (widthOf(text) <= width) return text;
  const letters = [...text];
  while (letters.length > 1 && widthOf(`${letters.join('')}…`) > width) letters.pop();
  return `${letters.join('').trimEnd()}…`;
}
