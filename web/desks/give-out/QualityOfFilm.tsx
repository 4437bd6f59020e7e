import type { FilmQuality } from '#core/motion/film-quality.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { NumberField } from '#web/desks/stage/Chooser.tsx';

const inWords: { quality: Extract<FilmQuality, string>; name: string; purpose: string }[] = [
  { quality: 'small', name: 'Small', purpose: 'for mail and pages' },
  { quality: 'good', name: 'Good', purpose: 'for slides and screens' },
  { quality: 'best', name: 'Best', purpose: 'for cutting and projecting' },
];

/** A million bits a second. */
const MBIT = 1_000_000;
const BITS = { usual: 12 * MBIT, least: 0.05 * MBIT, most: 1000 * MBIT };

/** How good a film is: in words, or by the bits it may take a second. */
export function QualityOfFilm({
  quality,
  onQuality,
}: {
  quality: FilmQuality;
  onQuality(q: FilmQuality): void;
}) {
  const bits = typeof quality === 'object' ? quality.bits : null;
  return (
    <fieldset>
      <legend className="head mb-1.5">Size of the file</legend>
      <div className="flex flex-wrap items-center gap-1">
        {inWords.map((word) => (
          <Pill
            key={word.name}
            on={quality === word.quality}
            title={word.purpose}
            onClick={() => onQuality(word.quality)}
          >
            {word.name}
          </Pill>
        ))}
        <Pill on={bits !== null} onClick={() => onQuality({ bits: bits ?? BITS.usual })}>
          By its bits
        </Pill>
      </div>
      {bits !== null && (
        <div className="mt-1.5">
          <NumberField
            label="Mbit a second"
            value={bits / MBIT}
            onChange={(v) =>
              onQuality({ bits: Math.round(Math.min(BITS.most, Math.max(BITS.least, v * MBIT))) })
            }
          />
        </div>
      )}
    </fieldset>
  );
}
