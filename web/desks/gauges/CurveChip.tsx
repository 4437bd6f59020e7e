import { ArrowDown, ArrowUp, Eye, EyeOff, Trash2 } from 'lucide-react';
import { speak } from '#core/language/sentence.ts';
import type { CurveData } from '#core/measure/curves/curve-data.ts';
import { curveWorks, understoodWork } from '#core/measure/curves/registry.ts';
import { withStepIds } from '#core/ops/chain/step.ts';
import { curveName, isCurve } from '#core/scene/charts/chart-drawn.ts';
import { curve as curveThing } from '#core/scene/charts/curve.ts';
import type { Chart, Curve } from '#core/scene/document.ts';
import { withWorkChanged } from '#core/scene/gauge-edits.ts';
import { givesCurve } from '#core/scene/gauge-label.ts';
import type { NoReading } from '#core/scene/reading.ts';
import { settingOf } from '#core/scene/setting.ts';
import { Chooser } from '#web/desks/stage/Chooser.tsx';
import type { AnyControl } from '#web/desks/stage/controls/control-props.ts';
import { Controls } from '#web/desks/stage/controls/OneControl.tsx';
import { edit, useRun, useScene } from '#web/desks/stage/desk-store.ts';
import { OfferedKinds } from '#web/desks/stage/OfferedKinds.tsx';
import { dragged } from './dragged-curve.ts';

interface Props {
  chart: Chart;
  curve: Curve;
  data: CurveData | NoReading | undefined;
  /** What it is drawn in; null where it is not drawn. */
  ink: string | null;
}

/** A curve of a chart: its name, how it is drawn, and what is done with it. */
export function CurveChip({ chart, curve, data, ink }: Props) {
  const run = useRun();
  const scene = useScene();
  const { id, of } = curve;
  const gauge = of.kind === 'gauge' && scene.gauges.find((g) => g.id === of.gauge);
  const readsCurve = of.kind === 'gauge' && gauge && givesCurve(gauge) && run.steps.length > 1;
  const name = curveName(curve, data, scene, run);
  const change = (c: Partial<Curve>, key: string | null = null) =>
    edit({ type: 'curve.change', id, change: c }, key && `${key}-${id}`);
  const trouble = data && !isCurve(data) ? data.trouble : null;
  return (
    <li
      className="flex min-w-0 items-center rounded-full border border-rule/80 pr-1 pl-2 text-sm"
      title="Drag it into another chart"
      {...dragged({ move: id })}
    >
      <span
        aria-hidden="true"
        className="mr-1.5 size-2.5 shrink-0 rounded-full"
        style={{
          background: ink ?? 'transparent',
          boxShadow: ink ? undefined : 'inset 0 0 0 1px var(--soft)',
        }}
      />
      <Chooser word={name} label={`Change the curve ${name}`} look="max-w-72 truncate hover:text-accent" wide>
        <div className="flex flex-col gap-3">
          {trouble && (
            <p role="alert" className="text-warn">
              {trouble}
            </p>
          )}
          {isCurve(data) && data.notes?.map((note) => <p key={note}>{note}</p>)}
          {readsCurve && (
            <label className="flex items-center gap-2 text-sm">
              <input
                type="checkbox"
                checked={of.everyStep ?? false}
                onChange={(e) => change({ of: { ...of, everyStep: e.target.checked } })}
              />
              At every step: a picture over the steps
            </label>
          )}
          <Work curve={curve} data={isCurve(data) ? data : null} />
          <details>
            <summary className="cursor-pointer text-sm text-soft hover:text-ink">
              Name, colour, line and axis
            </summary>
            <div className="mt-2">
              <Controls
                controls={curveThing.controls as AnyControl[]}
                options={{ ...curve }}
                setting={settingOf(run, scene)}
                set={change}
              />
            </div>
          </details>
          <div className="flex gap-3 border-t border-rule/70 pt-2 text-sm">
            {scene.charts.length > 1 && (
              <select
                className="field h-7 min-w-0 flex-1"
                aria-label="Move it to another chart"
                value=""
                onChange={(e) => edit({ type: 'curve.move', id, chart: e.target.value, to: 100 })}
              >
                <option value="">to another chart …</option>
                {scene.charts.map((c, i) =>
                  c.id === chart.id ? null : (
                    <option key={c.id} value={c.id}>
                      {c.title ?? `chart ${i + 1}`}
                    </option>
                  ),
                )}
              </select>
            )}
            <button
              type="button"
              className="flex items-center gap-1 text-soft hover:text-accent"
              onClick={() => edit({ type: 'curve.remove', id })}
            >
              <Trash2 size={14} /> Take away
            </button>
          </div>
        </div>
      </Chooser>
      {trouble && (
        <span className="ml-1 text-warn" title={trouble}>
          ⚠
        </span>
      )}
      <button
        type="button"
        className="mark size-6"
        aria-pressed={curve.visible}
        aria-label={curve.visible ? `Hide ${name}` : `Show ${name}`}
        onClick={() => change({ visible: !curve.visible })}
      >
        {curve.visible ? <Eye size={13} /> : <EyeOff size={13} />}
      </button>
    </li>
  );
}

/** What is done with a curve, one after the other. */
function Work({ curve, data }: { curve: Curve; data: CurveData | null }) {
  const run = useRun();
  const scene = useScene();
  const setting = settingOf(run, scene);
  const { id, work } = curve;
  const set = (next: Curve['work'], key: string | null = null) =>
    edit({ type: 'curve.change', id, change: { work: next } }, key && `${key}-${id}`);
  return (
    <div className="flex flex-col gap-2">
      {work.map((step, i) => {
        const known = understoodWork(step);
        return (
          <div key={step.id} className="rounded-md bg-sunk/60 px-2 py-1.5">
            <div className="flex items-center gap-1">
              <span className={`flex-1 font-medium ${step.off ? 'line-through opacity-60' : ''}`}>
                {known?.work.name ?? step.op}
              </span>
              <Small label="Earlier" off={i === 0} onDo={() => set(moved(work, i, i - 1))}>
                <ArrowUp size={13} />
              </Small>
              <Small label="Later" off={i === work.length - 1} onDo={() => set(moved(work, i, i + 1))}>
                <ArrowDown size={13} />
              </Small>
              <Small
                label={step.off ? 'Switch on' : 'Switch off'}
                onDo={() => set(work.with(i, { ...step, off: !step.off }))}
              >
                {step.off ? <EyeOff size={13} /> : <Eye size={13} />}
              </Small>
              <Small label="Take away" onDo={() => set(work.toSpliced(i, 1))}>
                <Trash2 size={13} />
              </Small>
            </div>
            {known && known.work.controls.length > 0 && (
              <div className="mt-1">
                <Controls
                  controls={known.work.controls as AnyControl[]}
                  options={known.options as Record<string, unknown>}
                  setting={setting}
                  set={(change, key) => set(withWorkChanged(work, step.id, change), key ?? `work-${step.id}`)}
                />
              </div>
            )}
            {known && <p className="sr-only">{speak(known.work.phrase.say(known.options, setting) ?? [])}</p>}
          </div>
        );
      })}
      <details>
        <summary className="cursor-pointer text-sm font-medium text-accent">Do something with it</summary>
        <div className="mt-1">
          <OfferedKinds
            kinds={curveWorks}
            onChoose={(kind) =>
              set(
                withStepIds<Omit<Curve['work'][number], 'id'> & { id?: string }>([
                  ...work,
                  { op: kind.id, options: kind.defaults(data), off: false },
                ]),
              )
            }
          />
        </div>
      </details>
    </div>
  );
}

const moved = (work: Curve['work'], from: number, to: number): Curve['work'] =>
  work.toSpliced(from, 1).toSpliced(to, 0, work[from]);

function Small({
  label,
  off = false,
  onDo,
  children,
}: {
  label: string;
  off?: boolean;
  onDo(): void;
  children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      className="mark size-6"
      aria-label={label}
      title={label}
      disabled={off}
      onClick={onDo}
    >
      {children}
    </button>
  );
}
