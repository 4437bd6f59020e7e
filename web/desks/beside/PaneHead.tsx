import { ChevronLeft, ChevronRight, SlidersHorizontal, X } from 'lucide-react';
import { useState } from 'react';
import { type LinkName, linkNames, type Pane, type ScenePane } from '#core/beside/side-by-side.ts';
import type { Box } from '#core/beside/side-layout.ts';
import { sayStep } from '#core/motion/step-text.ts';
import { chartLabel } from '#core/scene/charts/chart-drawn.ts';
import { endsOfScales } from '#core/scene/scale-ends.ts';
import { OtherRunForm } from '#web/desks/shared/OtherRunForm.tsx';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { Chooser } from '#web/desks/stage/Chooser.tsx';
import { addRuns, chosenPane, editSide, titleOf, useBeside, useSide } from './beside-store.ts';
import { boxStyle } from './box-style.ts';

const ownWays: Record<LinkName, string> = {
  camera: 'a camera of its own',
  times: 'a time of its own',
  scales: 'scales of its own',
  lines: 'lines of its own',
  looks: 'a look of its own',
};

/** What stands above a pane: what it shows, and what can be done with it. */
export function PaneHead({ pane, box }: { pane: Pane; box: Box }) {
  const side = useSide();
  const at = side.panes.findIndex((p) => p.id === pane.id);
  const chosen = useBeside((s) => chosenPane(s)?.id === pane.id);
  const move = (to: number): void => editSide({ type: 'side.pane.move', id: pane.id, to });
  return (
    <header
      className={`absolute flex items-center gap-1 overflow-hidden px-1.5 text-sm ${chosen ? 'bg-accent-wash' : 'bg-paper'}`}
      style={boxStyle(box)}
    >
      <PaneTitle pane={pane} />
      {pane.kind === 'scene' && <TimeOfPane pane={pane} />}
      <span className="ml-auto flex shrink-0 items-center">
        {pane.kind === 'scene' && <SceneMenu pane={pane} />}
        <button
          type="button"
          className="mark size-6"
          aria-label="Move this pane forward"
          title="Move this pane forward"
          disabled={at === 0}
          onClick={() => move(at - 1)}
        >
          <ChevronLeft size={14} />
        </button>
        <button
          type="button"
          className="mark size-6"
          aria-label="Move this pane back"
          title="Move this pane back"
          disabled={at === side.panes.length - 1}
          onClick={() => move(at + 1)}
        >
          <ChevronRight size={14} />
        </button>
        <button
          type="button"
          className="mark size-6"
          aria-label="Take this pane away"
          title="Take this pane away"
          onClick={() => editSide({ type: 'side.pane.remove', id: pane.id })}
        >
          <X size={14} />
        </button>
      </span>
    </header>
  );
}

/** The words above a pane; what is typed stays in place of the usual ones. */
function PaneTitle({ pane }: { pane: Pane }) {
  const side = useSide();
  const runs = useBeside((s) => s.runs);
  const usual = usualTitle(pane, side.panes, runs);
  const [typing, setTyping] = useState(false);
  const title = pane.title ?? usual;
  if (!typing)
    return (
      <button
        type="button"
        className="min-w-0 truncate rounded px-1 text-left font-medium hover:bg-sunk"
        title={`${title}: click to call it otherwise`}
        onClick={() => setTyping(true)}
      >
        {title}
      </button>
    );
  return (
    <input
      // biome-ignore lint/a11y/noAutofocus: the person just asked to type here
      autoFocus
      aria-label="Title of the pane"
      className="field h-6 min-w-0 flex-1 px-1"
      defaultValue={title}
      onBlur={(e) => {
        setTyping(false);
        const typed = e.target.value.trim();
        const to = typed === '' || typed === usual ? null : typed;
        if (to !== pane.title) editSide({ type: 'side.pane.title', id: pane.id, title: to });
      }}
      onKeyDown={(e) => {
        if (e.key === 'Escape') e.currentTarget.value = title;
        if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur();
      }}
    />
  );
}

/** What a pane is called where nobody called it otherwise. */
export function usualTitle(
  pane: Pane,
  panes: readonly Pane[],
  runs: ReturnType<typeof useBeside.getState>['runs'],
): string {
  if (pane.kind === 'scene') return titleOf({ ...pane, title: null }, runs);
  if (pane.kind === 'readings') return 'Readings';
  for (const one of panes) {
    if (one.kind !== 'scene') continue;
    const at = one.scene.charts.findIndex((c) => c.id === pane.chart);
    if (at >= 0) return chartLabel(one.scene.charts[at], at);
  }
  return 'A chart that is gone';
}

function TimeOfPane({ pane }: { pane: ScenePane }) {
  const run = useBeside((s) => s.runs.get(pane.run));
  if (!run || run.steps.length < 2) return null;
  const step = run.steps[Math.min(pane.scene.step, run.steps.length - 1)];
  return (
    <span className="shrink-0 text-soft tabular-nums">{sayStep(step, run.timeUnit, pane.scene.stamp)}</span>
  );
}

/** In what a scene goes its own way, and another run under it. */
function SceneMenu({ pane }: { pane: ScenePane }) {
  const side = useSide();
  const run = useBeside((s) => s.runs.get(pane.run));
  const shown = useBeside((s) => s.onShow[pane.id]);
  const [open, setOpen] = useState(false);
  const ends = open && shown ? endsOfScales(pane.scene, shown.run, shown.spreads) : {};
  return (
    <Chooser
      word={<SlidersHorizontal size={14} />}
      label="This pane: its own ways, and another run"
      look="mark size-6"
      side="bottom"
      wide
      open={open}
      onOpen={setOpen}
    >
      <h3 className="head mb-1.5">It has</h3>
      <div className="mb-4 flex flex-col gap-1">
        {linkNames.map((link) => (
          <Tick
            key={link}
            label={ownWays[link]}
            checked={pane.free.includes(link)}
            onChange={(free) => editSide({ type: 'side.free', id: pane.id, link, free })}
          />
        ))}
      </div>
      <h3 className="head mb-1.5">Another run under it</h3>
      {run && (
        <OtherRunForm
          run={run}
          runId={pane.run}
          scenes={[pane.scene]}
          ends={ends}
          rules={side.rules}
          act="Show this run"
          onChoose={async ({ id, run: other, rules, on }) => {
            addRuns({ [id]: other });
            editSide({ type: 'side.pane.run', id: pane.id, run: id, scene: on(pane.scene), rules });
            setOpen(false);
          }}
        />
      )}
    </Chooser>
  );
}
