/** A number as it stands in a field: seven digits, which read back to what is shown. */
export const numberText = (value: number): string => String(Number(value.toPrecision(7)));

/** The same for a narrow field: fewer digits, or a power of ten, but never a digit cut off. */
export function narrowNumberText(value: number, most = 8): string {
  for (let digits = 6; digits > 1; digits--) {
    const plain = String(Number(value.toPrecision(digits)));
    if (plain.length <= most) return plain;
    // Plain digits beyond those that count would be an untruth where they are cut.
    const power = value.toExponential(digits - 1).replace(/\.?0*e\+?/, 'e');
    if (power.length <= most) return power;
  }
  return value.toExponential(0).replace('e+', 'e');
}

/** Width of a field that holds a text whole. */
export const widthFor = (text: string): string => `${Math.max(6, text.length) + 2.5}ch`;

/** What was typed, or null when it is no number. */
export function typedNumber(text: string): number | null {
  const typed = Number(text.replace(',', '.').replace('−', '-'));
  return text.trim() !== '' && Number.isFinite(typed) ? typed : null;
}
