import { DRAFT_PASSES, FINAL_PASSES, MOST_PASSES, PROOF_PASSES } from '#stage/pictures/render-picture.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';

/** How long a picture is worked on. */
export interface Quality {
  passes: number;
  /** Until it wavers less than that, in levels of 255; null for a number of passes. */
  noise: number | null;
}

const levels = [
  { name: 'Draft', passes: DRAFT_PASSES, hint: 'to see whether all is in it' },
  { name: 'Proof', passes: PROOF_PASSES, hint: 'to be looked at' },
  { name: 'Final', passes: FINAL_PASSES, hint: 'to be given away' },
] as const;

export const finalQuality: Quality = { passes: FINAL_PASSES, noise: null };

/** Noise that nobody sees in an even grey. */
const UNSEEN = 0.5;

interface PassesProps {
  /** Null where none of them is chosen. */
  passes: number | null;
  onPasses(passes: number): void;
}

/** Draft, proof or final. */
export const PassesPills = ({ passes, onPasses }: PassesProps) =>
  levels.map((level) => (
    <Pill
      key={level.name}
      on={passes === level.passes}
      title={`${level.passes} passes, ${level.hint}`}
      onClick={() => onPasses(level.passes)}
    >
      {level.name}
    </Pill>
  ));

interface Props {
  quality: Quality;
  onQuality(quality: Quality): void;
}

/** Draft, proof or final; as many passes as one likes; or until the picture is as clean as asked. */
export function QualityFields({ quality: { passes, noise }, onQuality }: Props) {
  return (
    <fieldset>
      <legend className="head mb-1.5">Light</legend>
      <div className="mb-2 flex flex-wrap gap-1">
        <PassesPills
          passes={noise === null ? passes : null}
          onPasses={(many) => onQuality({ passes: many, noise: null })}
        />
        <Pill
          on={noise !== null}
          title="As many passes as that takes"
          onClick={() => onQuality({ passes: MOST_PASSES, noise: noise ?? UNSEEN })}
        >
          Until clean
        </Pill>
      </div>
      {noise === null ? (
        <label className="flex items-center gap-2">
          <input
            type="number"
            className="field w-[70px]"
            aria-label="Passes"
            min={1}
            max={MOST_PASSES}
            key={passes}
            defaultValue={passes}
            onBlur={(e) => onQuality({ passes: within(e.target.valueAsNumber, passes), noise })}
            onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
          />
          <span className="text-soft">passes</span>
        </label>
      ) : (
        <label className="flex items-center gap-2">
          <span className="text-soft">Noise below</span>
          <select
            className="field h-8"
            aria-label="Noise below"
            value={noise}
            onChange={(e) => onQuality({ passes, noise: Number(e.target.value) })}
          >
            {[2, 1, 0.5, 0.25].map((level) => (
              <option key={level} value={level}>
                {level}
              </option>
            ))}
          </select>
          <span className="text-soft">of 255 levels</span>
        </label>
      )}
    </fieldset>
  );
}

const within = (asked: number, before: number): number =>
  Number.isFinite(asked) ? Math.max(1, Math.min(MOST_PASSES, Math.round(asked))) : before;
