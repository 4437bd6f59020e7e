/** A thousandth of the range is finer than a drag. */
export function roundTo(value: number, range: number): number {
  const grain = 10 ** Math.floor(Math.log10(Math.max(Math.abs(range), 1e-30) / 1000));
  return Number((Math.round(value / grain) * grain).toPrecision(12));
}
