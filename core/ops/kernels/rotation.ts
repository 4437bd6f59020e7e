/**
 * Rotation about a unit axis by an angle in radians, right-handed, row by row: Rodrigues' formula
 * `I + sin a K + (1 - cos a) K²`. Multiples of a quarter turn are exact.
 */
export function rotation(axis: readonly number[], angle: number): Float64Array {
  const [x, y, z] = axis;
  const quarter = angle / (Math.PI / 2);
  const whole = Math.abs(quarter - Math.round(quarter)) < 1e-12;
  const s = whole ? [0, 1, 0, -1][((Math.round(quarter) % 4) + 4) % 4] : Math.sin(angle);
  const c = whole ? [1, 0, -1, 0][((Math.round(quarter) % 4) + 4) % 4] : Math.cos(angle);
  const t = 1 - c;
  return Float64Array.of(
    t * x * x + c,
    t * x * y - s * z,
    t * x * z + s * y,
    t * x * y + s * z,
    t * y * y + c,
    t * y * z - s * x,
    t * x * z - s * y,
    t * y * z + s * x,
    t * z * z + c,
  );
}
