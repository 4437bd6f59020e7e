import { cssColour, mapColour } from '#core/colour/compiled-scale.ts';
import type { Scale } from '#core/scene/document.ts';

/** The colours of a scale as a small strip. */
export function Ramp({
  scale,
  className = 'ml-1.5 inline-block h-3 w-14 rounded-sm align-baseline',
}: {
  scale: Pick<Scale, 'map' | 'reversed'> & { bands?: number | null };
  className?: string;
}) {
  const at = (position: number): string => cssColour(mapColour(scale, position));
  const n = scale.bands ?? 0;
  const stops = n
    ? Array.from({ length: n }, (_, i) => {
        const colour = at(n === 1 ? 0.5 : i / (n - 1));
        return `${colour} ${(100 * i) / n}% ${(100 * (i + 1)) / n}%`;
      })
    : Array.from({ length: 17 }, (_, i) => at(i / 16));
  return (
    <span
      className={className}
      style={{ background: `linear-gradient(to right, ${stops.join(', ')})` }}
      aria-hidden="true"
    />
  );
}
