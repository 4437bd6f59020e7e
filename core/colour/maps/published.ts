import * as chromatic from 'd3-scale-chromatic';
import { hexToRgb, type Rgb } from '../cielab.ts';
import { type ColourMap, colourMap, MAP_COLOURS } from './colour-map.ts';

type Interpolate = (t: number) => string;

function sampled(interpolate: Interpolate): Rgb[] {
  return Array.from({ length: MAP_COLOURS }, (_, i) => {
    const text = interpolate(i / (MAP_COLOURS - 1));
    if (text.startsWith('#')) return hexToRgb(text);
    return text
      .match(/\d+/g)!
      .slice(0, 3)
      .map((v) => Number(v) / 255) as Rgb;
  });
}

const smooth = (said: Parameters<typeof colourMap>[0], interpolate: Interpolate): ColourMap =>
  colourMap({ published: 'published', ...said }, () => sampled(interpolate));

/** Van der Walt and Smith, 2015, and those after them: made even in CAM02-UCS. */
const even = (id: string, name: string, note: string, interpolate: Interpolate): ColourMap =>
  smooth({ id, name, note: `published; ${note}`, group: 'sequential', even: true }, interpolate);

/** Harrower and Brewer, "ColorBrewer.org", The Cartographic Journal 40 (2003). */
const BREWER = 'Harrower and Brewer';

/** Light to dark, as printed maps have it. */
const printed = (id: string, name: string, interpolate: Interpolate): ColourMap =>
  smooth({ id, name, note: 'for print; light to dark', group: 'sequential', published: BREWER }, interpolate);

const twoSided = (id: string, name: string, interpolate: Interpolate): ColourMap =>
  smooth(
    { id, name, note: 'for print; two sides', group: 'diverging', published: BREWER, suits: ['signed'] },
    interpolate,
  );

const named = (id: string, name: string, colours: readonly string[], published = BREWER): ColourMap =>
  colourMap(
    { id, name, note: `${colours.length} colours`, group: 'categorical', published, suits: ['id'] },
    () => colours.map(hexToRgb),
  );

/** Maps published by others, from d3-scale-chromatic. */
export const publishedMaps: readonly ColourMap[] = [
  even('viridis', 'Viridis', 'safe for colour blindness', chromatic.interpolateViridis),
  even('cividis', 'Cividis', 'same to nearly every eye', chromatic.interpolateCividis),
  even('inferno', 'Inferno', 'black to pale yellow', chromatic.interpolateInferno),
  even('magma', 'Magma', 'black to pale rose', chromatic.interpolateMagma),
  even('plasma', 'Plasma', 'strong colours throughout', chromatic.interpolatePlasma),
  smooth(
    { id: 'helix', name: 'Helix', note: 'published; dark to light around the hues', group: 'sequential' },
    chromatic.interpolateCubehelixDefault,
  ),
  printed('blues', 'Blues', chromatic.interpolateBlues),
  printed('greens', 'Greens', chromatic.interpolateGreens),
  printed('oranges', 'Oranges', chromatic.interpolateOranges),
  printed('purples', 'Purples', chromatic.interpolatePurples),
  printed('reds', 'Reds', chromatic.interpolateReds),
  printed('blue-green', 'Blue to green', chromatic.interpolateBuGn),
  printed('blue-purple', 'Blue to purple', chromatic.interpolateBuPu),
  printed('green-blue', 'Green to blue', chromatic.interpolateGnBu),
  printed('orange-red', 'Orange to red', chromatic.interpolateOrRd),
  printed('purple-blue-green', 'Purple, blue, green', chromatic.interpolatePuBuGn),
  printed('purple-blue', 'Purple to blue', chromatic.interpolatePuBu),
  printed('purple-red', 'Purple to red', chromatic.interpolatePuRd),
  printed('red-purple', 'Red to purple', chromatic.interpolateRdPu),
  printed('yellow-green-blue', 'Yellow, green, blue', chromatic.interpolateYlGnBu),
  printed('yellow-green', 'Yellow to green', chromatic.interpolateYlGn),
  printed('yellow-orange-brown', 'Yellow, orange, brown', chromatic.interpolateYlOrBr),
  printed('yellow-orange-red', 'Yellow, orange, red', chromatic.interpolateYlOrRd),
  twoSided('brown-teal', 'Brown and teal', chromatic.interpolateBrBG),
  twoSided('purple-green', 'Purple and green', chromatic.interpolatePRGn),
  twoSided('pink-green', 'Pink and green', chromatic.interpolatePiYG),
  twoSided('orange-purple', 'Orange and purple', chromatic.interpolatePuOr),
  twoSided('red-blue', 'Red and blue', chromatic.interpolateRdBu),
  twoSided('red-grey', 'Red and grey', chromatic.interpolateRdGy),
  twoSided('red-yellow-blue', 'Red, yellow, blue', chromatic.interpolateRdYlBu),
  twoSided('red-yellow-green', 'Red, yellow, green', chromatic.interpolateRdYlGn),
  twoSided('spectral', 'Spectral', chromatic.interpolateSpectral),
  smooth(
    { id: 'sine-ring', name: 'Sine ring', note: 'published; all hues around, strong', group: 'cyclic' },
    chromatic.interpolateSinebow,
  ),
  smooth(
    { id: 'soft-ring', name: 'Soft ring', note: 'published; all hues around, softer', group: 'cyclic' },
    chromatic.interpolateRainbow,
  ),
  smooth(
    { id: 'turbo', name: 'Turbo', note: 'published; every colour, uneven lightness', group: 'multi-part' },
    chromatic.interpolateTurbo,
  ),
  named('set-1', 'Nine strong', chromatic.schemeSet1),
  named('set-2', 'Eight soft', chromatic.schemeSet2),
  named('set-3', 'Twelve light', chromatic.schemeSet3),
  named('dark', 'Eight dark', chromatic.schemeDark2),
  named('pairs', 'Six pairs', chromatic.schemePaired),
  named('pale-9', 'Nine pale', chromatic.schemePastel1),
  named('pale-8', 'Eight pale', chromatic.schemePastel2),
  named('accents', 'Eight accents', chromatic.schemeAccent),
  named('ten', 'Ten clear', chromatic.schemeCategory10, 'published'),
  smooth(
    { id: 'greys', name: 'Greys', note: 'for print; light to dark', group: 'grey', published: BREWER },
    chromatic.interpolateGreys,
  ),
];
