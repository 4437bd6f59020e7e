import { fileName } from '#core/language/file-name.ts';
import { filmWriters } from '#stage/films/registry.ts';
import { pictureWriters } from '#stage/pictures/registry.ts';
import type { FilmAtWork } from './film-at-work.ts';
import type { FilmOutlet } from './film-outlets.ts';

/** What a film is given out as, in a few words: `MP4, H.264`, `the pictures`. */
export const sayOutlet = (outlet: FilmOutlet): string =>
  'film' in outlet ? outlet.film.name : 'the pictures';

const endingOf = (outlet: FilmOutlet): string => ('film' in outlet ? outlet.film.ending : 'zip');
const idOf = (outlet: FilmOutlet): string => ('film' in outlet ? outlet.film.id : outlet.pictures.id);

/** Names for the files of a scene, in their order; of several with one ending all but the first say their format. */
export function filmFileNames(scene: string, outlets: readonly FilmOutlet[]): string[] {
  const taken = new Set<string>();
  return outlets.map((outlet) => {
    const ending = endingOf(outlet);
    const said = taken.has(ending) ? `${idOf(outlet)}.${ending}` : ending;
    taken.add(ending);
    return `${fileName(scene)}.${said}`;
  });
}

export const posterName = (scene: string): string => `${fileName(scene)}.poster.png`;

/** What the server names by ids; null for a format that is gone. */
export function outletNamed(named: FilmAtWork['outlets'][number]): FilmOutlet | null {
  if ('film' in named) {
    const film = filmWriters.find((w) => w.id === named.film);
    return film ? { film } : null;
  }
  const pictures = pictureWriters.find((w) => w.id === named.pictures);
  return pictures ? { pictures } : null;
}
