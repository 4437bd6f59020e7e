import { useEffect, useState } from 'react';
import { fileName } from '#core/language/file-name.ts';
import type { TrackBeside } from '#core/motion/web-vtt.ts';
import { saveFile } from '#web/desks/shared/save-file.ts';
import { filmFileNames, posterName, sayOutlet } from './film-names.ts';
import type { FilmOutlet } from './film-outlets.ts';

/** Films that were made of one drawing. */
export interface FilmsMade {
  /** Of the scene. */
  name: string;
  said: string;
  files: { outlet: FilmOutlet; blob: Blob }[];
  /** The picture that stands for it where it is not played; null of what is no film. */
  poster: Blob | null;
  /** What goes beside them. */
  tracks: TrackBeside[];
}

/** The first of them as it plays, and all of them to be saved. */
export function MadeFilm({ name, said, files, poster, tracks }: FilmsMade) {
  const [{ outlet, blob }] = files;
  const names = filmFileNames(
    name,
    files.map((f) => f.outlet),
  );
  const preview = 'film' in outlet ? outlet.film.preview : 'none';
  return (
    <figure>
      {preview !== 'none' && <Preview kind={preview} blob={blob} />}
      <figcaption className="mt-1.5 flex flex-col gap-1.5 text-xs text-soft">
        {said}
        <span className="flex flex-wrap gap-1.5">
          <SaveTracks name={name} tracks={tracks} />
          {poster && (
            <button
              type="button"
              className="quiet text-sm"
              title="The picture that stands for the film where it is not played"
              onClick={() => saveFile(poster, posterName(name))}
            >
              Save poster
            </button>
          )}
          {files.map((file, i) => (
            <button
              key={sayOutlet(file.outlet)}
              type="button"
              className={`${i === 0 ? 'act' : 'quiet'} text-sm`}
              onClick={() => saveFile(file.blob, names[i])}
            >
              Save{i === 0 ? '' : ` ${sayOutlet(file.outlet)}`}
            </button>
          ))}
        </span>
      </figcaption>
    </figure>
  );
}

/** What goes beside a film, each to be saved. */
export const SaveTracks = ({ name, tracks }: Pick<FilmsMade, 'name' | 'tracks'>) =>
  tracks.map(({ track, text }) => (
    <button
      key={track}
      type="button"
      className="quiet text-sm"
      title="A WebVTT file to go beside the film"
      onClick={() => saveFile(new Blob([text], { type: 'text/vtt' }), `${fileName(name)}.${track}.vtt`)}
    >
      Save {track}
    </button>
  ));

function Preview({ kind, blob }: { kind: 'video' | 'image'; blob: Blob }) {
  const [address, setAddress] = useState<string>();
  useEffect(() => {
    const made = URL.createObjectURL(blob);
    setAddress(made);
    return () => URL.revokeObjectURL(made);
  }, [blob]);
  const look = 'w-full rounded-lg border border-rule';
  return kind === 'video' ? (
    <video src={address} controls loop autoPlay muted className={look} data-testid="film" />
  ) : (
    <img src={address} alt="The finished film" className={look} data-testid="film" />
  );
}
