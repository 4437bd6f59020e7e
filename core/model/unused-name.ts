/**
 * The wanted name where nothing has it, else the first free one with a number: `fan`, `fan 2`, `fan 3`.
 *
 * @param numbered how a number from 2 on is put to it
 */
export function unusedName(
  wanted: string,
  isTaken: (name: string) => boolean,
  numbered: (n: number) => string = (n) => `${wanted} ${n}`,
): string {
  let name = wanted;
  for (let n = 2; isTaken(name); n++) name = numbered(n);
  return name;
}
