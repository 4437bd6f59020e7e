import { type OwnMap, ownMapSchema } from '../maps/own-map.ts';
import type { MapFormat } from './map-file.ts';

/** `{"name", "space", "stops": [{"at", "colour"}]}`, one map or a list of them: nothing is lost. */
export const jsonMaps: MapFormat = {
  id: 'json',
  name: 'JSON',
  ending: '.json',
  type: 'application/json',
  detects: (text) => /^\s*[[{]/.test(text),
  read(text, name) {
    let found: unknown;
    try {
      found = JSON.parse(text);
    } catch (error) {
      throw new Error(`This is no JSON: ${(error as Error).message}. Save the map again.`);
    }
    return (Array.isArray(found) ? found : [found]).map((one, i): OwnMap => {
      const read = ownMapSchema.safeParse({ name, space: 'oklab', ...(one as object) });
      if (read.success) return sorted(read.data);
      const [issue] = read.error.issues;
      throw new Error(
        `Map ${i + 1} does not fit at "${issue.path.join(' / ')}": ${issue.message}. It has a name, a space (oklab, lab, screen or none) and stops with a place 0 to 1 and a colour #rrggbb.`,
      );
    });
  },
  write: (map) => `${JSON.stringify(map, null, 2)}\n`,
};

const sorted = (map: OwnMap): OwnMap => ({ ...map, stops: [...map.stops].sort((a, b) => a.at - b.at) });
