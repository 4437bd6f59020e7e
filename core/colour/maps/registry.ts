import type { ColourMap, MapRole } from './colour-map.ts';
import { mapGroups } from './colour-map.ts';
import { ownMaps } from './own.ts';
import { publishedMaps } from './published.ts';
import { seaMaps } from './sea.ts';

/** Every colour map, group by group, within each those whose steps look even first. A new one is a line in its file. */
export const colourMaps: readonly ColourMap[] = mapGroups.flatMap((group) => {
  const all = [...ownMaps, ...publishedMaps, ...seaMaps].filter((m) => m.group === group);
  return [...all.filter((m) => m.even), ...all.filter((m) => !m.even)];
});

const byId = new Map(colourMaps.map((m) => [m.id, m]));

/** The named map, or the first one when a scene names a map this version does not have. */
export const colourMapById = (id: string): ColourMap => byId.get(id) ?? colourMaps[0];

/** The maps that suit a role, those whose steps look even first. */
export const mapsFor = (role: MapRole): ColourMap[] => {
  const suiting = colourMaps.filter((m) => m.suits.includes(role));
  return [...suiting.filter((m) => m.even), ...suiting.filter((m) => !m.even)];
};
