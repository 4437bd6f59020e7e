import type { Rgb } from '#core/colour/cielab.ts';
import { type Vision, visions } from '#core/colour/colour-vision.ts';
import { cssColour } from '#core/colour/compiled-scale.ts';
import { mapFigures, seenAll } from '#core/colour/map-figures.ts';
import { coloursOfMap, isStepped, type MapOfScale } from '#core/colour/maps/own-map.ts';
import { colourMapById } from '#core/colour/maps/registry.ts';

const visionNames: Record<Vision, string> = {
  protan: 'no red cones',
  deutan: 'no green cones',
  tritan: 'no blue cones',
  grey: 'in grey',
};

const WIDTH = 120;
const HEIGHT = 44;

/** How a map does to the eye: its lightness from end to end, how even its steps are, and how others see it. */
export function MapDetails({ map }: { map: MapOfScale }) {
  const known = typeof map === 'string' ? colourMapById(map) : null;
  const colours = coloursOfMap(map);
  const figures = mapFigures(colours, known?.group ?? 'sequential');
  const stepped = isStepped(map);
  const line = figures.lightness
    .map((l, i) => `${(i / (figures.lightness.length - 1)) * WIDTH},${HEIGHT - 2 - (l / 100) * (HEIGHT - 4)}`)
    .join(' ');
  return (
    <div className="flex gap-3 rounded-md bg-sunk/60 p-2 text-xs" data-testid="map-details">
      <div className="w-[8.2rem] shrink-0">
        <svg
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          className="w-full rounded-sm border border-rule bg-sheet"
          role="img"
          aria-label="Lightness from the low end to the high one"
        >
          <polyline points={line} fill="none" stroke="currentColor" strokeWidth={1.4} />
        </svg>
        <p className="mt-1 text-soft">
          {stepped
            ? `${colours.length} colours`
            : `lightness ${Math.round(figures.lightness[0])} to ${Math.round(figures.lightness[figures.lightness.length - 1])}`}
        </p>
      </div>
      <div className="min-w-0 flex-1">
        <div className="flex flex-col gap-[3px]">
          {visions.map((vision) => (
            <div key={vision} className="flex items-center gap-1.5">
              <Strip colours={seenAll(colours, vision)} stepped={stepped} />
              <span className="w-[5.4rem] shrink-0 text-[11px] leading-none text-soft">
                {visionNames[vision]}
              </span>
            </div>
          ))}
        </div>
        <p className="mt-1.5 leading-tight text-soft">
          {known ? `${known.note}. ` : ''}
          {!stepped && sayEven(figures.unevenness)}
          {!stepped &&
            !figures.ordered &&
            known?.group !== 'cyclic' &&
            ' Lightness does not tell low from high.'}
        </p>
      </div>
    </div>
  );
}

const sayEven = (unevenness: number): string =>
  unevenness < 0.5
    ? `Steps even within ${Math.max(1, Math.round(100 * unevenness))} %.`
    : `Steps uneven by up to ${Math.round(100 * unevenness)} %.`;

function Strip({ colours, stepped }: { colours: readonly Rgb[]; stepped: boolean }) {
  const count = stepped ? colours.length : 24;
  const stops = Array.from({ length: count }, (_, i) => {
    const colour = cssColour(colours[stepped ? i : Math.round((i / (count - 1)) * (colours.length - 1))]);
    return stepped ? `${colour} ${(100 * i) / count}% ${(100 * (i + 1)) / count}%` : colour;
  });
  return (
    <span
      className="h-2.5 min-w-0 flex-1 rounded-sm"
      style={{ background: `linear-gradient(to right, ${stops.join(', ')})` }}
    />
  );
}
