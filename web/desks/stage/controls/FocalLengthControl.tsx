import { focalLength, openingOf } from '#core/scene/camera.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import type { ControlProps } from './control-props.ts';
import { SlidingNumber } from './NumberControls.tsx';

/** From wide to far, as lenses are sold (common practice, no source). */
const usual = [20, 28, 35, 50, 85, 135];

/** In millimetres, for a frame 24 high. */
export function FocalLengthControl({ control, options, set }: ControlProps<'focal length'>) {
  const { key, label, range } = control;
  const [longest, shortest] = range().map(focalLength);
  const now = focalLength(options[key] as number);
  const change = (focal: number, sliding = false): void =>
    set(
      { [key]: Number(openingOf(Math.min(longest, Math.max(shortest, focal))).toFixed(3)) },
      sliding ? `slide-${key}` : null,
    );
  return (
    <div className="flex flex-col gap-1.5">
      <SlidingNumber
        label={label}
        value={Number(now.toPrecision(3))}
        unit="mm"
        range={[10, 200]}
        onChange={change}
      />
      <div className="flex flex-wrap gap-1 pl-22">
        {usual.map((focal) => (
          <Pill key={focal} on={Math.abs(now - focal) < 0.5} onClick={() => change(focal)}>
            {focal}
          </Pill>
        ))}
      </div>
    </div>
  );
}
