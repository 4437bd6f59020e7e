import { ChevronFirst, ChevronLast, ChevronLeft, ChevronRight, Pause, Play } from 'lucide-react';
import type { ReactNode } from 'react';
import { stepOfMoment } from '#core/model/moment.ts';
import { pluralKind, sayStep } from '#core/motion/step-text.ts';
import { playsInCycle } from '#core/scene/plays-in-cycle.ts';
import { sceneThing } from '#core/scene/things/registry.ts';
import { stepsOfStretch } from '#core/scene/things/stretch.ts';
import type { Viewport } from '#stage/viewport.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { useRoving } from '#web/desks/shared/roving.ts';
import { Chooser } from './Chooser.tsx';
import type { DeskController } from './desk-controller.ts';
import { goToPhase, goToStep, useDesk, useRun, useScene } from './desk-store.ts';
import { playsNow } from './play-track.ts';
import { ThingControls } from './SettingLines.tsx';
import { Shots } from './Shots.tsx';
import { StretchSlider } from './StretchSlider.tsx';

const rates = [1, 2, 5, 10, 15, 24, 30, 60];

interface Props {
  controller: DeskController;
  viewport: Viewport | null;
}

/** Time along the foot of the stage, with the shots that were kept. */
export function TimeStrip({ controller, viewport }: Props) {
  const run = useRun();
  const scene = useScene();
  useDesk((s) => s.plays);
  const { swings, moves } = playsInCycle(scene);
  const shown = playsNow();
  const choose = (plays: 'steps' | 'cycle') => useDesk.setState({ playing: false, plays });
  return (
    <section
      id="time"
      aria-label="Time"
      className="@container flex h-[72px] shrink-0 items-center gap-4 overflow-x-auto border-t border-rule bg-paper px-4"
    >
      {moves && run.steps.length > 1 && (
        <fieldset aria-label="What plays" className="flex shrink-0 flex-col gap-1">
          <Pill on={shown === 'steps'} onClick={() => choose('steps')}>
            {pluralKind[run.steps[0].kind]}
          </Pill>
          <Pill on={shown === 'cycle'} onClick={() => choose('cycle')}>
            {swings ? 'phase' : 'cycle'}
          </Pill>
        </fieldset>
      )}
      {shown === 'cycle' ? (
        <CycleTransport />
      ) : run.steps.length > 1 ? (
        <StepTransport />
      ) : (
        <p className="flex-1 text-soft">One step, no time to play.</p>
      )}
      <Shots controller={controller} viewport={viewport} />
    </section>
  );
}

/** Pauses at a place and shows it. */
const at = (go: (to: number) => void) => (to: number) => {
  useDesk.setState({ playing: false });
  go(to);
};

interface ButtonsProps {
  before: ReactNode;
  behind: ReactNode;
}

/** Play and pause between the buttons that go from place to place. */
function PlayButtons({ before, behind }: ButtonsProps) {
  const bar = useRoving<HTMLDivElement>('[data-play]');
  const playing = useDesk((s) => s.playing);
  return (
    <div ref={bar} className="flex shrink-0 items-center" role="toolbar" aria-label="Playing">
      {before}
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
      {behind}
    </div>
  );
}

/** What the arrows of the keyboard move the phase by, in degrees. */
const PHASE_STEP = 3.75;
/** What its buttons move it by. */
const PHASE_LEAP = 30;

function CycleTransport() {
  const run = useRun();
  const { cycle, step, stamp } = useScene();
  const { phase, seconds } = cycle;
  const go = at(goToPhase);
  const round = (to: number) => go((to + 360) % 360);
  return (
    <div className="flex min-w-fit flex-1 items-center gap-3">
      <PlayButtons
        before={
          <button
            type="button"
            className="mark"
            onClick={() => round(phase - PHASE_LEAP)}
            aria-label={`${PHASE_LEAP}° back`}
          >
            <ChevronLeft size={18} />
          </button>
        }
        behind={
          <button
            type="button"
            className="mark"
            onClick={() => round(phase + PHASE_LEAP)}
            aria-label={`${PHASE_LEAP}° on`}
          >
            <ChevronRight size={18} />
          </button>
        }
      />
      <input
        type="range"
        aria-label="Phase"
        aria-valuetext={`${Math.round(phase)}°`}
        className="w-16 min-w-16 flex-1"
        min={0}
        max={360}
        step={PHASE_STEP}
        value={phase}
        onChange={(e) => go(Number(e.target.value))}
      />
      {run.steps.length > 1 && (
        <select
          className="field h-7 max-w-52 shrink-0"
          aria-label={`Which ${run.steps[0].kind} is shown`}
          value={step}
          onChange={(e) => goToStep(Number(e.target.value))}
        >
          {run.steps.map((each, i) => (
            <option key={each.index} value={i}>
              {sayStep(each, run.timeUnit, stamp)}
            </option>
          ))}
        </select>
      )}
      <div className="min-w-32 shrink-0 text-right leading-tight tabular-nums">
        <p className="whitespace-nowrap font-medium">{Math.round(phase)}° of 360°</p>
        <p className="text-xs text-soft">
          <Chooser word={`one cycle in ${Number(seconds.toPrecision(3))} s`} label="The cycle">
            <ThingControls thing={sceneThing('cycle')} />
          </Chooser>
        </p>
      </div>
    </div>
  );
}

function StepTransport() {
  const run = useRun();
  const { step, onward, stamp, stretch } = useScene();
  const shown = stepOfMoment(run, { step, onward });
  const rate = useDesk((s) => s.rate);
  const last = run.steps.length - 1;
  const ends = stepsOfStretch(stretch, run.steps.length);
  const whole = ends.first === 0 && ends.last === last;
  const all = [...new Set([...rates, rate])].sort((a, b) => a - b);
  const go = at(goToStep);
  return (
    <div className="flex min-w-fit flex-1 items-center gap-3">
      <PlayButtons
        before={
          <>
            <button type="button" className="mark" onClick={() => go(ends.first)} aria-label="First step">
              <ChevronFirst size={18} />
            </button>
            <button type="button" className="mark" onClick={() => go(step - 1)} aria-label="One step back">
              <ChevronLeft size={18} />
            </button>
          </>
        }
        behind={
          <>
            <button type="button" className="mark" onClick={() => go(step + 1)} aria-label="One step on">
              <ChevronRight size={18} />
            </button>
            <button type="button" className="mark" onClick={() => go(ends.last)} aria-label="Last step">
              <ChevronLast size={18} />
            </button>
          </>
        }
      />
      <div className="flex w-16 min-w-16 flex-1 flex-col gap-1">
        <input
          type="range"
          aria-label="Step"
          aria-valuetext={`${sayStep(shown, run.timeUnit, stamp)}, step ${step + 1} of ${last + 1}`}
          className="w-full"
          min={0}
          max={last}
          value={step}
          onChange={(e) => go(Number(e.target.value))}
        />
        <StretchSlider />
      </div>
      <div className="min-w-32 shrink-0 text-right leading-tight tabular-nums">
        <p className="whitespace-nowrap font-medium">{sayStep(shown, run.timeUnit, stamp)}</p>
        <p className="text-xs text-soft">
          {whole
            ? `step ${step + 1} of ${last + 1}`
            : `step ${step + 1}, plays ${ends.first + 1} to ${ends.last + 1}`}
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
