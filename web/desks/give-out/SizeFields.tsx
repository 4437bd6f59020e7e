import { LARGEST_SIDE } from '#core/model/largest-side.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { edit, pictureAspect, useDesk } from '#web/desks/stage/desk-store.ts';

export interface Size {
  width: number;
  height: number;
}

/** Sizes that are often asked for. */
export const sizePresets: { name: string; width: number; height: number }[] = [
  { name: 'HD', width: 1280, height: 720 },
  { name: 'Full HD', width: 1920, height: 1080 },
  { name: '4K', width: 3840, height: 2160 },
  { name: '8K', width: 7680, height: 4320 },
  { name: '16K', width: 15360, height: 8640 },
  { name: 'Square', width: 1600, height: 1600 },
  { name: 'Slide 4:3', width: 1600, height: 1200 },
  { name: 'Upright', width: 1080, height: 1920 },
];

export const LARGEST: Size = { width: LARGEST_SIDE, height: LARGEST_SIDE };

interface Props {
  size: Size;
  onSize(size: Size): void;
  largest?: Size;
}

/**
 * The size of what is given out. Its shape becomes the shape of the picture on the stage, so that the composition on
 * the screen is the one that is given out.
 */
export function SizeFields({ size, onSize, largest = LARGEST }: Props) {
  const set = (next: Size) => {
    const limited = { width: clamp(next.width, largest.width), height: clamp(next.height, largest.height) };
    onSize(limited);
    const aspect = limited.width / limited.height;
    if (Math.abs(aspect - pictureAspect(useDesk.getState())) > 1e-3)
      edit({ type: 'setting.change', thing: 'picture', change: { aspect } }, 'picture-size');
  };
  return (
    <fieldset>
      <legend className="head mb-1.5">Size</legend>
      <div className="mb-2 flex flex-wrap gap-1">
        {sizePresets
          .filter((p) => p.width <= largest.width && p.height <= largest.height)
          .map((p) => (
            <Pill
              key={p.name}
              on={p.width === size.width && p.height === size.height}
              title={`${p.width} × ${p.height}`}
              onClick={() => set(p)}
            >
              {p.name}
            </Pill>
          ))}
      </div>
      <div className="flex items-center gap-2">
        <SizeNumber
          label="Width in pixels"
          value={size.width}
          onChange={(width) => set({ ...size, width })}
        />
        <span className="text-soft">×</span>
        <SizeNumber
          label="Height in pixels"
          value={size.height}
          onChange={(height) => set({ ...size, height })}
        />
        <span className="text-soft">pixels</span>
      </div>
    </fieldset>
  );
}

const clamp = (v: number, most: number) => Math.max(64, Math.min(most, Math.round(v) || 64));

export function SizeNumber({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number;
  onChange(v: number): void;
}) {
  return (
    <input
      key={value}
      aria-label={label}
      className="field w-20 tabular-nums"
      defaultValue={value}
      inputMode="numeric"
      onBlur={(e) => Number(e.target.value) !== value && onChange(Number(e.target.value))}
      onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
    />
  );
}

/** A size to begin with: as high as a full HD picture, in the shape of the picture on the stage. */
export function sizeOfStage(height = 1080): Size {
  const aspect = pictureAspect(useDesk.getState());
  return { width: Math.round((height * aspect) / 2) * 2, height };
}
