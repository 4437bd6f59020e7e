import type { ScaleToWrite } from '#core/formats/surfaces/scene-to-write.ts';
import { sayNumber } from '#core/language/sentence.ts';
import type { LivingFigure } from '#core/report/living-figure.ts';
import type { Probed } from './figure-view.ts';

const withUnit = (said: string, unit: string | null): string => (unit ? `${said} ${unit}` : said);

/** A value in the unit of its scale. */
export const sayValue = (value: number, { factor, shift, unit }: ScaleToWrite): string =>
  withUnit(sayNumber(value * factor + shift), unit);

/** What was found in a figure, in words. */
export function sayProbed(
  { name, value, at }: Probed,
  { lengthUnit }: Pick<LivingFigure, 'lengthUnit'>,
): { what: string; where: string } {
  const what = value ? `${value.scale.title}: ${sayValue(value.is, value.scale)}` : name;
  const place = withUnit(`(${at.map((v) => sayNumber(v, 4)).join(', ')})`, lengthUnit);
  return { what, where: value ? `${name}, at ${place}` : `at ${place}` };
}
