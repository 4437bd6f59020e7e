import { useEffect, useState } from 'react';
import type { FilmWriter } from '#stage/films/film-writer.ts';
import { filmWriters, offeredFilms } from '#stage/films/registry.ts';
import { offeredWriters, pictureWriters } from '#stage/pictures/registry.ts';
import type { PictureWriter } from '#stage/pictures/writer.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { Tick } from '#web/desks/shared/Tick.tsx';
import type { FilmOutlet } from './film-outlets.ts';

export const usualOutlets: readonly FilmOutlet[] = [{ film: filmWriters[0] }];

/** What films can be written as here, at a usual size. */
function useOffered(): { films: readonly FilmWriter[]; pictures: readonly PictureWriter[] } {
  const [films, setFilms] = useState<readonly FilmWriter[]>([filmWriters[0]]);
  const [pictures, setPictures] = useState<readonly PictureWriter[]>([pictureWriters[0]]);
  useEffect(() => {
    void offeredFilms({ width: 1280, height: 720 }).then(setFilms);
    void offeredWriters().then(setPictures);
  }, []);
  return { films, pictures };
}

const isFilm = (outlet: FilmOutlet, writer: FilmWriter): boolean =>
  'film' in outlet && outlet.film === writer;

/** What a film is written as: one kind, and others of the same drawing where they are wanted. */
export function FilmKinds({
  outlets,
  onOutlets,
}: {
  outlets: readonly FilmOutlet[];
  onOutlets(outlets: readonly FilmOutlet[]): void;
}) {
  const { films, pictures } = useOffered();
  const [first, ...also] = outlets;
  const zipped = outlets.find((o): o is { pictures: PictureWriter } => 'pictures' in o);
  const others: { name: string; outlet: FilmOutlet; on: boolean }[] = [
    ...films.map((film) => ({ name: film.name, outlet: { film }, on: also.some((o) => isFilm(o, film)) })),
    {
      name: 'Pictures in a zip',
      outlet: { pictures: pictures[0] },
      on: also.some((o) => 'pictures' in o),
    },
  ];
  const same = (a: FilmOutlet, b: FilmOutlet): boolean => ('film' in b ? isFilm(a, b.film) : 'pictures' in a);
  const become = (outlet: FilmOutlet) => onOutlets([outlet, ...also.filter((o) => !same(o, outlet))]);
  const toggle = (outlet: FilmOutlet, on: boolean) =>
    onOutlets(on ? [...outlets, outlet] : outlets.filter((o) => o === first || !same(o, outlet)));
  return (
    <fieldset>
      <legend className="head mb-1.5">Kind</legend>
      <div className="flex flex-wrap gap-1">
        {films.map((w) => (
          <Pill key={w.id} on={isFilm(first, w)} title={w.purpose} onClick={() => become({ film: w })}>
            {w.name}
          </Pill>
        ))}
        <Pill on={'pictures' in first} onClick={() => become(zipped ?? { pictures: pictures[0] })}>
          Pictures in a zip
        </Pill>
      </div>
      <details className="mt-1.5 text-sm" open={also.length > 0 ? true : undefined}>
        <summary className="cursor-pointer text-soft hover:text-ink">Also as</summary>
        <div className="mt-1.5 flex flex-wrap gap-x-4 gap-y-1">
          {others
            .filter(({ outlet }) => !same(first, outlet))
            .map(({ name, outlet, on }) => (
              <Tick key={name} label={name} checked={on} onChange={(v) => toggle(outlet, v)} />
            ))}
        </div>
      </details>
      {zipped && (
        <label className="mt-1.5 flex items-center gap-2 text-sm">
          Pictures as
          <select
            className="field"
            value={zipped.pictures.id}
            onChange={(e) => {
              const writer = pictures.find((w) => w.id === e.target.value)!;
              onOutlets(outlets.map((o) => (o === zipped ? { pictures: writer } : o)));
            }}
          >
            {pictures.map((w) => (
              <option key={w.id} value={w.id}>
                {w.name}
              </option>
            ))}
          </select>
        </label>
      )}
    </fieldset>
  );
}
