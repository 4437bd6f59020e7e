import { secondsIn } from '../model/units.ts';
import type { Stamp } from '../scene/document.ts';

/**
 * A time as the stamp asks: decimals with a unit, or minutes and seconds. The time is converted only when the unit
 * of the run is known.
 */
export function sayTime(
  time: number,
  unit: string | null,
  stamp: Pick<Stamp, 'style' | 'decimals' | 'unit'>,
): string {
  const from = unit === null ? null : secondsIn[unit];
  if (stamp.style === 'clock') {
    const seconds = time * (from ?? 1);
    const sign = seconds < 0 ? '−' : '';
    const whole = Math.abs(seconds);
    let minutes = Math.floor(whole / 60);
    let rest = (whole - 60 * minutes).toFixed(stamp.decimals);
    if (Number(rest) >= 60) {
      minutes++;
      rest = (0).toFixed(stamp.decimals);
    }
    return `${sign}${minutes}:${rest.padStart(stamp.decimals > 0 ? stamp.decimals + 3 : 2, '0')} min`;
  }
  const to = stamp.unit === null ? undefined : secondsIn[stamp.unit];
  const converted = from && to ? (time * from) / to : time;
  const shown = converted.toFixed(stamp.decimals).replace('-', '−');
  const label = from && to ? stamp.unit : unit;
  return label ? `t = ${shown} ${label}` : `t = ${shown}`;
}
