import { ChevronLeft, ChevronRight, Pause, Play } from 'lucide-react';
import { useEffect } from 'react';
import { sayStep } from '#core/motion/step-text.ts';
import { chosenPane, editSide, useBeside } from './beside-store.ts';

/** The time of the chosen picture, which the others follow. */
export function SideTime() {
  const pane = useBeside(chosenPane);
  const run = useBeside((s) => (pane ? s.runs.get(pane.run) : undefined));
  const playing = useBeside((s) => s.playing);
  const last = (run?.steps.length ?? 1) - 1;
  const step = Math.min(pane?.scene.step ?? 0, last);
  const go = (to: number): void => {
    useBeside.setState({ playing: false });
    if (pane) editSide({ type: 'side.step', id: pane.id, step: Math.max(0, Math.min(last, to)) });
  };
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if ((event.target as HTMLElement).matches('input, textarea, select, button')) return;
      if (event.key === ',') go(step - 1);
      else if (event.key === '.') go(step + 1);
      else if (event.key === ' ' && last > 0) useBeside.setState({ playing: !playing });
      else return;
      event.preventDefault();
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  });
  if (!pane || !run || last < 1) return null;
  return (
    <section
      aria-label="Time"
      className="flex h-12 shrink-0 items-center gap-3 border-t border-rule bg-paper px-4"
    >
      <button
        type="button"
        className="mark"
        aria-label="One step back"
        title="One step back (,)"
        onClick={() => go(step - 1)}
        disabled={step === 0}
      >
        <ChevronLeft size={17} />
      </button>
      <button
        type="button"
        className="mark"
        aria-label={playing ? 'Pause' : 'Play'}
        title={playing ? 'Pause (Space)' : 'Play (Space)'}
        onClick={() => useBeside.setState({ playing: !playing })}
      >
        {playing ? <Pause size={17} /> : <Play size={17} />}
      </button>
      <button
        type="button"
        className="mark"
        aria-label="One step on"
        title="One step on (.)"
        onClick={() => go(step + 1)}
        disabled={step === last}
      >
        <ChevronRight size={17} />
      </button>
      <input
        type="range"
        aria-label="Step"
        className="flex-1"
        min={0}
        max={last}
        value={step}
        onChange={(e) => go(Number(e.target.value))}
      />
      <output className="w-28 text-right tabular-nums">
        {sayStep(run.steps[step], run.timeUnit, pane.scene.stamp)}
      </output>
    </section>
  );
}
