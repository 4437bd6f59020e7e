import { type CompiledScale, cssColour, mapColour } from '#core/colour/compiled-scale.ts';

/** The colours of a scale as a small strip; bands as wide as they are on the scale. */
export function Ramp({
  scale,
  className = 'ml-1.5 inline-block h-3 w-14 rounded-sm align-baseline',
}: {
  scale: Pick<CompiledScale, 'colours' | 'bandCount' | 'edges' | 'fraction'>;
  className?: string;
}) {
  const at = (position: number): string => cssColour(mapColour(scale.colours, position));
  const n = scale.bandCount;
  const place = (edge: number): string => `${100 * scale.fraction(edge)}%`;
  const stops =
    n > 0
      ? Array.from({ length: n }, (_, i) => {
          const colour = at(n === 1 ? 0.5 : i / (n - 1));
          const [begin, end] = [
            i === 0 ? '0%' : place(scale.edges[i]),
            i === n - 1 ? '100%' : place(scale.edges[i + 1]),
          ];
          return `${colour} ${begin} ${end}`;
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
