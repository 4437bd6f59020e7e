import { ChevronFirst, ChevronLast, ChevronLeft, ChevronRight, Pause, Play } from 'lucide-react';
import { sayStep } from '#core/motion/step-text.ts';
import type { Viewport } from '#stage/viewport.ts';
import { useRoving } from '#web/desks/shared/roving.ts';
import type { DeskController } from './desk-controller.ts';
import { goToStep, useDesk, useRun, useScene } from './desk-store.ts';
import { Shots } from './Shots.tsx';

const rates = [1, 2, 5, 10, 15, 24, 30, 60];

interface Props {
  controller: DeskController;
  viewport: Viewport | null;
}

/** Time along the foot of the stage, with the shots that were kept. */
export function TimeStrip({ controller, viewport }: Props) {
  const run = useRun();
  return (
    <section
      id="time"
      aria-label="Time"
      className="flex h-[72px] shrink-0 items-center gap-4 border-t border-rule bg-paper px-4"
    >
      {run.steps.length > 1 ? <Transport /> : <p className="flex-1 text-soft">One step, no time to play.</p>}
      <Shots controller={controller} viewport={viewport} />
    </section>
  );
}

function Transport() {
  const run = useRun();
  const { step, stamp } = useScene();
  const bar = useRoving<HTMLDivElement>('[data-play]');
  const playing = useDesk((s) => s.playing);
  const rate = useDesk((s) => s.rate);
  const last = run.steps.length - 1;
  const all = [...new Set([...rates, rate])].sort((a, b) => a - b);
  const go = (to: number) => {
    useDesk.setState({ playing: false });
    goToStep(to);
  };
  return (
    <div className="flex min-w-0 flex-1 items-center gap-3">
      <div ref={bar} className="flex items-center" role="toolbar" aria-label="Playing">
        <button type="button" className="mark" onClick={() => go(0)} aria-label="First step">
          <ChevronFirst size={18} />
        </button>
        <button type="button" className="mark" onClick={() => go(step - 1)} aria-label="One step back">
          <ChevronLeft size={18} />
        </button>
        <button
          type="button"
          className="mx-0.5 inline-flex size-10 items-center justify-center rounded-full bg-accent text-on-accent hover:brightness-110"
          data-play
          onClick={() => useDesk.setState({ playing: !playing })}
          aria-label={playing ? 'Pause' : 'Play'}
        >
          {playing ? (
            <Pause size={18} fill="currentColor" />
          ) : (
            <Play size={18} fill="currentColor" className="ml-0.5" />
          )}
        </button>
        <button type="button" className="mark" onClick={() => go(step + 1)} aria-label="One step on">
          <ChevronRight size={18} />
        </button>
        <button type="button" className="mark" onClick={() => go(last)} aria-label="Last step">
          <ChevronLast size={18} />
        </button>
      </div>
      <input
        type="range"
        aria-label="Step"
        aria-valuetext={`${sayStep(run.steps[step], run.timeUnit, stamp)}, step ${step + 1} of ${last + 1}`}
        className="min-w-0 flex-1"
        min={0}
        max={last}
        value={step}
        onChange={(e) => go(Number(e.target.value))}
      />
      <div className="min-w-32 shrink-0 text-right leading-tight tabular-nums">
        <p className="whitespace-nowrap font-medium">{sayStep(run.steps[step], run.timeUnit, stamp)}</p>
        <p className="text-xs text-soft">
          step {step + 1} of {last + 1}
        </p>
      </div>
      <label className="flex shrink-0 flex-col text-xs text-soft">
        <select
          className="field h-7 text-ink"
          aria-label="Speed"
          value={rate}
          onChange={(e) => useDesk.setState({ rate: Number(e.target.value) })}
        >
          {all.map((r) => (
            <option key={r} value={r}>
              {r} / s
            </option>
          ))}
        </select>
      </label>
    </div>
  );
}
