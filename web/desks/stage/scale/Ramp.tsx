import { type CompiledScale, cssColour } from '#core/colour/compiled-scale.ts';

/** More bands than this are not told apart in a strip. */
const MOST = 40;

/** The colours of a scale as a small strip; bands as wide as they are on the scale, what is hidden left open. */
export function Ramp({
  scale,
  className = 'ml-1.5 inline-block h-3 w-14 rounded-sm align-baseline',
}: {
  scale: CompiledScale;
  className?: string;
}) {
  const at = (value: number): string => (scale.hides(value) ? 'transparent' : cssColour(scale.colour(value)));
  const n = scale.bandCount;
  const place = (edge: number): string => `${100 * scale.fraction(edge)}%`;
  const stops =
    n > 0 && n <= MOST
      ? Array.from({ length: n }, (_, i) => {
          const colour = at((scale.edges[i] + scale.edges[i + 1]) / 2);
          const [begin, end] = [
            i === 0 ? '0%' : place(scale.edges[i]),
            i === n - 1 ? '100%' : place(scale.edges[i + 1]),
          ];
          return `${colour} ${begin} ${end}`;
        })
      : Array.from({ length: 25 }, (_, i) => at(scale.value(i / 24)));
  return (
    <span
      className={className}
      style={{ background: `linear-gradient(to right, ${stops.join(', ')})` }}
      aria-hidden="true"
    />
  );
}
