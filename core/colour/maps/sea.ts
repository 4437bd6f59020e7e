import scales from 'colormap/colorScale.js';
import { colourRamp } from '../perceived.ts';
import { type ColourMap, colourMap, MAP_COLOURS, type MapGroup, type MapRole } from './colour-map.ts';

/**
 * Thyng et al., "True colors of oceanography", Oceanography 29 (2016), as the package `colormap` (MIT) carries them: nine
 * colours each, straight between them on the screen.
 */
const sea = (
  table: string,
  name: string,
  note: string,
  suits: readonly MapRole[] = [],
  group: MapGroup = 'sequential',
  published = 'Thyng and others',
): ColourMap =>
  colourMap({ id: `sea-${table}`, name, note, group, suits, published }, () =>
    colourRamp(
      scales[table].map(({ index, rgb }) => ({
        at: index,
        colour: [rgb[0] / 255, rgb[1] / 255, rgb[2] / 255],
      })),
      'screen',
      MAP_COLOURS,
    ),
  );

/** Maps for the sea, from the package `colormap`. */
export const seaMaps: readonly ColourMap[] = [
  sea('temperature', 'Sea warmth', 'cold deep to warm surface', ['temperature']),
  sea('salinity', 'Sea salt', 'salinity, concentrations', ['salt']),
  sea('density', 'Sea density', 'density of water', ['density']),
  sea('oxygen', 'Sea oxygen', 'lack, enough and plenty of oxygen', ['oxygen'], 'multi-part'),
  sea('chlorophyll', 'Sea green', 'chlorophyll, growth'),
  sea('turbidity', 'Turbid', 'clear to muddy; dust, sediment', ['fraction']),
  sea('cdom', 'Peat', 'dissolved matter; stains'),
  sea('par', 'Sunlight', 'light that is left'),
  sea('bathymetry', 'Deep', 'depth of water', ['depth']),
  sea('freesurface-blue', 'Swell, blue', 'height of waves'),
  sea('freesurface-red', 'Swell, red', 'height of waves'),
  sea('velocity-blue', 'Current, blue', 'speed of currents', ['speed']),
  sea('velocity-green', 'Current, green', 'speed of currents', ['speed']),
  sea('phase', 'Tide', 'phase, direction', ['phase'], 'cyclic'),
  sea(
    'jet',
    'Rainbow',
    'for likeness with old pictures; uneven lightness',
    [],
    'multi-part',
    'common practice',
  ),
  sea('blackbody', 'Glow', 'colours of glowing bodies', ['temperature'], 'sequential', 'common practice'),
  sea('bone', 'Bone', 'grey with a touch of blue', [], 'grey', 'common practice'),
];
