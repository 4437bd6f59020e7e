import { useEffect, useState } from 'react';
import type { FilmWriter } from '#stage/films/film-writer.ts';
import { filmWriters, offeredFilms } from '#stage/films/registry.ts';
import { offeredWriters, pictureWriters } from '#stage/pictures/registry.ts';
import type { PictureWriter } from '#stage/pictures/writer.ts';

/** What films and pictures can be written as. */
export interface OfferedKinds {
  films: readonly FilmWriter[];
  pictures: readonly PictureWriter[];
}

/** What this browser can write, at a usual size; the usual kinds until it is known. */
export function useOfferedKinds(): OfferedKinds {
  const [films, setFilms] = useState<readonly FilmWriter[]>([filmWriters[0]]);
  const [pictures, setPictures] = useState<readonly PictureWriter[]>([pictureWriters[0]]);
  useEffect(() => {
    void offeredFilms({ width: 1280, height: 720 }).then(setFilms);
    void offeredWriters().then(setPictures);
  }, []);
  return { films, pictures };
}
