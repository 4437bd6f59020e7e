import { useState } from 'react';
import type { Pane } from '#core/beside/side-by-side.ts';
import { scenePanes } from '#core/beside/side-by-side.ts';
import { sayStep } from '#core/motion/step-text.ts';
import { chartLabel } from '#core/scene/charts/chart-drawn.ts';
import { onOtherRun } from '#core/scene/on-other-run.ts';
import { ask } from '#engine/server-requests.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { useListed } from '#web/desks/shared/use-listed.ts';
import { useWork } from '#web/desks/shared/work-state.ts';
import { RunChoices } from '#web/desks/sheets/RunChoices.tsx';
import type { ListedRun } from '#web/server/run-sets.ts';
import type { SavedScene } from '#web/server/saved-scenes.ts';
import { chosenPane, editSide, useBeside, useSide } from './beside-store.ts';
import { runDescription } from './other-run.ts';

const kinds = ['runs', 'scenes', 'steps', 'curves', 'readings'] as const;
type Kind = (typeof kinds)[number];

const add = (...panes: Pane[]): void => editSide({ type: 'side.panes.add', panes });

/** What may stand beside what is there. */
export function AddPanes({ room }: { room: number }) {
  const [kind, setKind] = useState<Kind>('runs');
  return (
    <div className="flex flex-col gap-3">
      <div className="flex flex-wrap gap-1.5">
        {kinds.map((one) => (
          <Pill key={one} on={kind === one} onClick={() => setKind(one)}>
            {one}
          </Pill>
        ))}
      </div>
      {kind === 'runs' ? (
        <AddRuns room={room} />
      ) : kind === 'scenes' ? (
        <AddScenes room={room} />
      ) : kind === 'steps' ? (
        <AddSteps room={room} />
      ) : kind === 'curves' ? (
        <AddCurves />
      ) : (
        <AddReadings />
      )}
    </div>
  );
}

/** The scene of the chosen pane, on other runs. */
function AddRuns({ room }: { room: number }) {
  const runs = useListed<ListedRun>('/api/runs/listed');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const { problem, run: work } = useWork();
  const pane = useBeside(chosenPane);
  const { rules } = useSide();
  const make = () =>
    work('Adding panes', async () => {
      for (const id of chosen) {
        const description = await runDescription(id);
        const scene = pane && onOtherRun(pane.scene, description, rules);
        if (scene) add({ id: freshId('pane'), kind: 'scene', title: null, run: id, scene, free: [] });
        else {
          const panes = await ask<Pane[]>('/api/beside/panes', {
            method: 'POST',
            json: { kind: 'runs', runs: [id], shot: null, set: null },
          });
          add(...panes);
        }
      }
      setChosen(new Set());
    });
  return (
    <>
      <p className="text-soft">The scene of the chosen picture, of other runs.</p>
      <RunChoices
        runs={runs}
        chosen={chosen}
        onChoose={(ids, on) =>
          setChosen((c) => new Set(on ? [...c, ...ids] : [...c].filter((id) => !ids.includes(id))))
        }
      />
      <AddButton count={chosen.size} room={room} onAdd={make} />
      {problem && <ProblemNote problem={problem} />}
    </>
  );
}

function AddScenes({ room }: { room: number }) {
  const scenes = useListed<SavedScene>('/api/scenes');
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const { problem, run: work } = useWork();
  const make = () =>
    work('Adding panes', async () => {
      const panes = await ask<Pane[]>('/api/beside/panes', {
        method: 'POST',
        json: { kind: 'scenes', scenes: chosen },
      });
      for (const pane of panes) if (pane.kind === 'scene') await runDescription(pane.run);
      add(...panes);
      setChosen([]);
    });
  return (
    <>
      <ul aria-label="Scenes" className="flex max-h-72 flex-col gap-0.5 overflow-y-auto">
        {scenes.map(({ id, name, runName }) => (
          <li key={id} className="flex items-baseline gap-2">
            <Tick
              label={name}
              checked={chosen.includes(id)}
              onChange={(on) => setChosen(on ? [...chosen, id] : chosen.filter((c) => c !== id))}
            />
            <span className="ml-auto shrink-0 truncate text-xs text-soft">{runName}</span>
          </li>
        ))}
      </ul>
      <AddButton count={chosen.length} room={room} onAdd={make} />
      {problem && <ProblemNote problem={problem} />}
    </>
  );
}

/** The chosen picture at other steps, which go their own way in time. */
function AddSteps({ room }: { room: number }) {
  const pane = useBeside(chosenPane);
  const run = useBeside((s) => (pane ? s.runs.get(pane.run) : undefined));
  const [chosen, setChosen] = useState<readonly number[]>([]);
  if (!pane || !run || run.steps.length < 2)
    return <p className="text-soft">The run of the chosen picture has one state only.</p>;
  const make = () => {
    add(
      ...chosen.map((step): Pane => {
        const scene = { ...pane.scene, step, onward: 0 };
        return { id: freshId('pane'), kind: 'scene', title: null, run: pane.run, scene, free: ['times'] };
      }),
    );
    setChosen([]);
  };
  return (
    <>
      <p className="text-soft">The chosen picture at other times, which stay there.</p>
      <ul aria-label="Steps" className="flex max-h-72 flex-col gap-0.5 overflow-y-auto">
        {run.steps.map((step) => (
          <li key={step.index}>
            <Tick
              label={sayStep(step, run.timeUnit, pane.scene.stamp)}
              checked={chosen.includes(step.index)}
              onChange={(on) =>
                setChosen(on ? [...chosen, step.index] : chosen.filter((c) => c !== step.index))
              }
            />
          </li>
        ))}
      </ul>
      <AddButton count={chosen.length} room={room} onAdd={make} />
    </>
  );
}

function AddCurves() {
  const side = useSide();
  const charts = new Map(
    scenePanes(side).flatMap((p) => p.scene.charts.map((c, i) => [c.id, chartLabel(c, i)] as const)),
  );
  if (charts.size === 0)
    return <p className="text-soft">No scene here has a chart. Draw one on the desk Gauges of a scene.</p>;
  return (
    <>
      <p className="text-soft">The curves of a chart, of all scenes that have it in one.</p>
      {[...charts].map(([id, name]) => (
        <button
          key={id}
          type="button"
          className="quiet"
          onClick={() => add({ id: freshId('pane'), kind: 'curves', title: null, chart: id })}
        >
          {name}
        </button>
      ))}
    </>
  );
}

function AddReadings() {
  return (
    <>
      <p className="text-soft">What the gauges of all scenes read at the time on show, in one table.</p>
      <button
        type="button"
        className="act self-start"
        onClick={() => add({ id: freshId('pane'), kind: 'readings', title: null })}
      >
        Add the table
      </button>
    </>
  );
}

function AddButton({ count, room, onAdd }: { count: number; room: number; onAdd(): void }) {
  const many = count > room;
  return (
    <button type="button" className="act self-start" disabled={count === 0 || many} onClick={onAdd}>
      {many ? `There is room for ${room} more` : count === 1 ? 'Add 1 pane' : `Add ${count} panes`}
    </button>
  );
}
