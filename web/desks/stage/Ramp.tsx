import { cssColour, scaleTable } from '#core/colour/scale-colours.ts';
import type { Scale } from '#core/scene/document.ts';

/** The colours of a scale as a small strip. */
export function Ramp({
  scale,
  className = 'ml-1.5 inline-block h-3 w-14 rounded-sm align-baseline',
}: {
  scale: Pick<Scale, 'map' | 'reversed'> & { bands?: number | null };
  className?: string;
}) {
  const table = scaleTable(scale);
  const n = scale.bands ?? 0;
  const stops = n
    ? Array.from({ length: n }, (_, i) => {
        const colour = cssColour(table[Math.round(n === 1 ? 127 : (i * 255) / (n - 1))]);
        return `${colour} ${(100 * i) / n}% ${(100 * (i + 1)) / n}%`;
      })
    : Array.from({ length: 17 }, (_, i) => cssColour(table[Math.round((i * 255) / 16)]));
  return (
    <span
      className={className}
      style={{ background: `linear-gradient(to right, ${stops.join(', ')})` }}
      aria-hidden="true"
    />
  );
}
