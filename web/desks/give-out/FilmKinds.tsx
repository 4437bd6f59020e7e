import { filmWriters } from '#stage/films/registry.ts';
import type { PictureWriter } from '#stage/pictures/writer.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { Tick } from '#web/desks/shared/Tick.tsx';
import type { FilmOutlet } from './film-outlets.ts';
import type { OfferedKinds } from './offered-kinds.ts';

export const usualOutlets: readonly FilmOutlet[] = [{ film: filmWriters[0] }];

/** Whether two are of one kind: pictures in a zip are, whatever each is written as. */
const same = (a: FilmOutlet, b: FilmOutlet): boolean =>
  'film' in a && 'film' in b ? a.film === b.film : 'pictures' in a && 'pictures' in b;

interface Props {
  outlets: readonly FilmOutlet[];
  onOutlets(outlets: readonly FilmOutlet[]): void;
  offered: OfferedKinds;
}

/**
 * What a film is written as: one kind, and others of the same drawing where they are wanted. The usual kind is there
 * even where this browser cannot write it, for the server can.
 */
export function FilmKinds({ outlets, onOutlets, offered: { films, pictures } }: Props) {
  const [first, ...also] = outlets;
  const zipped = outlets.find((o): o is { pictures: PictureWriter } => 'pictures' in o);
  const kinds: { name: string; purpose?: string; outlet: FilmOutlet }[] = [
    ...filmWriters
      .filter((film, i) => i === 0 || films.includes(film))
      .map((film) => ({ name: film.name, purpose: film.purpose, outlet: { film } })),
    { name: 'Pictures in a zip', outlet: zipped ?? { pictures: pictures[0] } },
  ];
  const become = (outlet: FilmOutlet) => onOutlets([outlet, ...also.filter((o) => !same(o, outlet))]);
  const toggle = (outlet: FilmOutlet, on: boolean) =>
    onOutlets(on ? [...outlets, outlet] : outlets.filter((o) => o === first || !same(o, outlet)));
  return (
    <fieldset>
      <legend className="head mb-1.5">Kind</legend>
      <div className="flex flex-wrap gap-1">
        {kinds.map(({ name, purpose, outlet }) => (
          <Pill key={name} on={same(first, outlet)} title={purpose} onClick={() => become(outlet)}>
            {name}
          </Pill>
        ))}
      </div>
      <details className="mt-1.5 text-sm" open={also.length > 0 ? true : undefined}>
        <summary className="cursor-pointer text-soft hover:text-ink">Also as</summary>
        <div className="mt-1.5 flex flex-wrap gap-x-4 gap-y-1">
          {kinds
            .filter(({ outlet }) => !same(first, outlet))
            .map(({ name, outlet }) => (
              <Tick
                key={name}
                label={name}
                checked={also.some((o) => same(o, outlet))}
                onChange={(on) => toggle(outlet, on)}
              />
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
