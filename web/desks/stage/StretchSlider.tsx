import { Slider } from 'radix-ui';
import { sayStep } from '#core/motion/step-text.ts';
import { stepsOfStretch, stretch, stretchOfSteps } from '#core/scene/things/stretch.ts';
import { setStretch, useRun, useScene } from './desk-store.ts';

/** The stretch of the steps that plays and that curves show, between two ends to drag; pressed twice it is all of them. */
export function StretchSlider() {
  const run = useRun();
  const { stretch: shown, stamp } = useScene();
  const count = run.steps.length;
  const { first, last } = stepsOfStretch(shown, count);
  const says = (step: number): string => `${sayStep(run.steps[step], run.timeUnit, stamp)}, step ${step + 1}`;
  return (
    <Slider.Root
      className="relative flex h-3 w-full touch-none items-center select-none"
      min={0}
      max={count - 1}
      step={1}
      minStepsBetweenThumbs={1}
      value={[first, last]}
      onValueChange={([a, b]) => setStretch(stretchOfSteps(a, b, count))}
      onDoubleClick={() => setStretch(stretch.plain)}
      title="The stretch that plays and that charts show: drag its ends; double-click for all steps"
    >
      <Slider.Track className="relative h-1 grow rounded-full bg-sunk">
        <Slider.Range className="absolute h-full rounded-full bg-soft/60" />
      </Slider.Track>
      {[
        ['Where the stretch begins', first],
        ['Where the stretch ends', last],
      ].map(([label, step]) => (
        <Slider.Thumb
          key={label}
          aria-label={label as string}
          aria-valuetext={says(step as number)}
          className="block h-3 w-1.5 cursor-ew-resize rounded-sm bg-soft hover:bg-accent"
        />
      ))}
    </Slider.Root>
  );
}
