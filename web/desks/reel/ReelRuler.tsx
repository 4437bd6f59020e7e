import { Slider } from 'radix-ui';
import { type PointerEvent, useRef } from 'react';
import { filmPictures } from '#core/motion/reel-facts.ts';
import { spanOfReel } from '#core/scene/things/reel.ts';
import { edit, goToFilmTime, useDesk, useKeptScene } from '#web/desks/stage/desk-store.ts';
import { NAMES, placeOfTime, rulerStep, sayFilmTime, type TimeScale, timeOfPlace } from './time-scale.ts';

/** Marks of a ruler stand no nearer than this, in pixels. */
const APART = 64;
/** A number takes no more room than this. */
const LABEL = 36;

/** The time along the lanes: pressed, it shows the film there; below it the ends of what is played and given out. */
export function ReelRuler({ scale }: { scale: TimeScale }) {
  const { reel } = useKeptScene();
  const time = useDesk((s) => s.filmTime);
  const track = useRef<HTMLDivElement>(null);
  const step = rulerStep(scale, APART);
  const first = Math.max(0, Math.ceil(timeOfPlace(scale, 0) / step));
  const last = Math.floor(Math.min(reel.seconds, timeOfPlace(scale, scale.width)) / step + 1e-9);
  // Keys are set at times that are easily said, rather than at those of pictures, the last of which shows the very end.
  const goNear = (seconds: number) => goToFilmTime(Math.round(seconds * reel.rate) / reel.rate);
  const go = (e: PointerEvent) => {
    const place = e.clientX - track.current!.getBoundingClientRect().left;
    useDesk.setState({ playing: false });
    goNear(timeOfPlace(scale, place));
  };
  return (
    <div className="sticky top-0 z-10 flex h-9 bg-paper">
      <div className="shrink-0 border-r border-rule" style={{ width: NAMES }} />
      <div
        ref={track}
        role="slider"
        tabIndex={0}
        aria-label="Time of the film"
        aria-valuemin={0}
        aria-valuemax={reel.seconds}
        aria-valuenow={time}
        aria-valuetext={`${sayFilmTime(time)} s`}
        className="relative min-w-0 flex-1 cursor-col-resize touch-none overflow-hidden"
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          go(e);
        }}
        onPointerMove={(e) => e.buttons === 1 && go(e)}
        onKeyDown={(e) => {
          const by = { ArrowLeft: -1, ArrowRight: 1, PageDown: -10, PageUp: 10 }[e.key];
          if (!by) return;
          e.preventDefault();
          goNear(time + by / reel.rate);
        }}
      >
        {Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => (first + i) * step).map((at) => (
          <span
            key={at}
            className={`absolute top-0 h-2 border-rule text-[11px] leading-4 text-soft tabular-nums ${
              placeOfTime(scale, at) > scale.width - LABEL
                ? '-translate-x-full border-r pr-1'
                : 'border-l pl-1'
            }`}
            style={{ left: placeOfTime(scale, at) }}
          >
            {sayFilmTime(at, step)}
          </span>
        ))}
        <Ends scale={scale} />
        <span
          className="pointer-events-none absolute top-0 h-full w-0.5 -translate-x-1/2 bg-accent"
          style={{ left: placeOfTime(scale, time) }}
        />
      </div>
    </div>
  );
}

/** From when to when the film is played and given out. */
function Ends({ scale }: { scale: TimeScale }) {
  const scene = useKeptScene();
  const { reel } = scene;
  const { from, to } = spanOfReel(reel);
  const one = 1 / filmPictures(scene).rate;
  const left = placeOfTime(scale, 0);
  const width = placeOfTime(scale, reel.seconds) - left;
  return (
    <Slider.Root
      className="absolute bottom-0.5 flex h-3 touch-none items-center select-none"
      style={{ left, width }}
      min={0}
      max={reel.seconds}
      step={one}
      minStepsBetweenThumbs={1}
      value={[from, to]}
      onPointerDown={(e) => e.stopPropagation()}
      onKeyDown={(e) => e.stopPropagation()}
      onValueChange={([a, b]) =>
        edit(
          {
            type: 'setting.change',
            thing: 'reel',
            change: { from: a, to: b >= reel.seconds - one / 2 ? null : b },
          },
          'ends of the film',
        )
      }
    >
      <Slider.Track className="relative h-1 grow rounded-full bg-sunk">
        <Slider.Range className="absolute h-full rounded-full bg-soft/60" />
      </Slider.Track>
      {['Where the film begins', 'Where the film ends'].map((label) => (
        <Slider.Thumb
          key={label}
          aria-label={label}
          className="block h-3 w-1.5 cursor-ew-resize rounded-sm bg-soft hover:bg-accent"
        />
      ))}
    </Slider.Root>
  );
}
