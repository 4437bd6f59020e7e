import { useState } from 'react';
import type { ListedShot } from '#web/server/listed-shots.ts';

interface Props {
  shots: readonly ListedShot[];
  chosen: readonly string[];
  onChoose(shots: string[]): void;
}

/** Shots of all scenes to choose from, in the order in which they are chosen. */
export function ShotChoices({ shots, chosen, onChoose }: Props) {
  const [typed, setTyped] = useState('');
  const wanted = typed.trim().toLowerCase();
  if (shots.length === 0)
    return (
      <p className="text-soft">
        No shot is kept yet. Open the scene of a run, set it up, and press “Keep shot” below its picture.
      </p>
    );
  const found = shots.filter((s) =>
    [s.name, s.sceneName, s.runName].some((name) => name.toLowerCase().includes(wanted)),
  );
  return (
    <div className="flex flex-col gap-2">
      <input
        aria-label="Shots whose names have"
        className="field w-full"
        placeholder="shots whose names have …"
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
      />
      <ul className="grid max-h-80 grid-cols-2 gap-2 overflow-y-auto" aria-label="Shots to choose">
        {found.map((one) => {
          const place = chosen.indexOf(one.id);
          return (
            <li key={one.id}>
              <button
                type="button"
                aria-pressed={place >= 0}
                className={`relative w-full overflow-hidden rounded-lg border text-left ${place >= 0 ? 'border-accent ring-1 ring-accent' : 'border-rule hover:border-soft'}`}
                onClick={() =>
                  onChoose(place >= 0 ? chosen.filter((id) => id !== one.id) : [...chosen, one.id])
                }
              >
                <img
                  src={`/api/shots/${one.id}/thumbnail`}
                  alt=""
                  loading="lazy"
                  className="aspect-[4/3] w-full bg-sunk object-contain"
                />
                {place >= 0 && (
                  <span className="absolute top-1 left-1 flex size-5 items-center justify-center rounded-full bg-accent text-xs font-semibold text-on-accent">
                    {place + 1}
                  </span>
                )}
                <span className="block px-2 py-1">
                  <span className="block truncate text-sm font-medium">{one.name}</span>
                  <span className="block truncate text-xs text-soft">{one.sceneName}</span>
                </span>
              </button>
            </li>
          );
        })}
      </ul>
    </div>
  );
}
