import { Lock, LockOpen } from 'lucide-react';
import { useRef } from 'react';
import { boundsCentre } from '#core/model/mesh.ts';
import { runBounds } from '#core/model/run.ts';
import { axisOf, type SectionOptions } from '#core/ops/section.ts';
import { cameraAxes, dot, unit, type Vector } from '#core/scene/camera.ts';
import type { Layer } from '#core/scene/document.ts';
import { NumberField } from './Chooser.tsx';
import { edit, freshId, sceneNow, useDesk, useRun } from './desk-store.ts';
import { planeRange } from './plane-range.ts';
import { roundTo } from './SectionHandles.tsx';

interface Props {
  layer: Layer;
  step: number;
}

const optionsOf = (layer: Layer, step: number): SectionOptions => layer.chain[step].options as SectionOptions;

/** The place of a plane as a word: drag it sideways to move the plane, click it for all of its settings. */
export function PlaneWord({ layer, step, text }: Props & { text: string }) {
  const run = useRun();
  const drag = useRef<{ x: number; offset: number; key: string; moved: boolean } | null>(null);
  const { normal, offset, locked } = optionsOf(layer, step);
  const [low, high] = planeRange(runBounds(run), normal);
  return (
    <button
      type="button"
      className={`word ${locked ? '' : 'cursor-ew-resize'} touch-none`}
      title={locked ? 'Locked' : 'Drag sideways to move the plane; click for its settings'}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        drag.current = { x: e.clientX, offset, key: freshId('scrub'), moved: false };
      }}
      onPointerMove={(e) => {
        const d = drag.current;
        if (!d || locked || (!d.moved && Math.abs(e.clientX - d.x) < 4)) return;
        d.moved = true;
        const next = Math.min(high, Math.max(low, d.offset + ((e.clientX - d.x) / 300) * (high - low)));
        edit(
          { type: 'chain.change', id: layer.id, step, options: { offset: roundTo(next, high - low) } },
          d.key,
        );
      }}
      onPointerUp={() => {
        if (drag.current && !drag.current.moved) useDesk.setState({ openLayer: layer.id });
        drag.current = null;
      }}
      onKeyDown={(e) => {
        if (locked || (e.key !== 'ArrowLeft' && e.key !== 'ArrowRight')) return;
        const next = offset + ((e.key === 'ArrowRight' ? 1 : -1) * (high - low)) / 100;
        edit(
          {
            type: 'chain.change',
            id: layer.id,
            step,
            options: { offset: roundTo(Math.min(high, Math.max(low, next)), high - low) },
          },
          `keys-${layer.id}`,
        );
      }}
    >
      {text}
    </button>
  );
}

/** Everything about the plane of a section. */
export function PlaneChoices({ layer, step }: Props) {
  const run = useRun();
  const { normal, offset, locked } = optionsOf(layer, step);
  const bounds = runBounds(run);
  const [low, high] = planeRange(bounds, normal);
  const axis = axisOf(normal);
  const set = (options: Partial<SectionOptions>, key: string | null = null) =>
    edit({ type: 'chain.change', id: layer.id, step, options }, key);
  const turn = (next: Vector) => {
    const n = unit(next);
    set({ normal: n, offset: roundTo(dot(boundsCentre(bounds), n), high - low || 1) });
  };
  return (
    <div className="flex flex-col gap-2">
      <div className="flex items-center gap-1.5">
        <span className="w-16 text-soft">Plane</span>
        {['x', 'y', 'z'].map((name, k) => (
          <button
            key={name}
            type="button"
            disabled={locked}
            aria-pressed={axis === k}
            className={`h-7 w-8 rounded-full border text-sm ${axis === k ? 'border-accent bg-accent text-on-accent' : 'border-rule hover:border-soft'}`}
            onClick={() => turn([k === 0 ? 1 : 0, k === 1 ? 1 : 0, k === 2 ? 1 : 0])}
          >
            {name}
          </button>
        ))}
        <button
          type="button"
          disabled={locked}
          className="h-7 rounded-full border border-rule px-2.5 text-sm hover:border-soft"
          title="Turn the plane to face the view"
          onClick={() => turn(cameraAxes(sceneNow().camera).back)}
        >
          facing
        </button>
        <button
          type="button"
          className="mark ml-auto size-7"
          aria-pressed={locked}
          aria-label={locked ? 'Unlock the plane' : 'Lock the plane'}
          title={locked ? 'Unlock the plane' : 'Lock the plane'}
          onClick={() => set({ locked: !locked })}
        >
          {locked ? <Lock size={15} /> : <LockOpen size={15} />}
        </button>
      </div>
      <div className="flex items-center gap-2">
        <span className="w-16 text-soft">Normal</span>
        {normal.map((v, k) => (
          <input
            key={`${k}-${v}`}
            aria-label={`Normal ${'xyz'[k]}`}
            disabled={locked}
            className="field h-7 w-14 min-w-0 tabular-nums"
            defaultValue={Number(v.toFixed(4))}
            onBlur={(e) => {
              const typed = Number(e.target.value.replace(',', '.'));
              const next = normal.map((w, j) => (j === k ? typed : w)) as Vector;
              if (Number.isFinite(typed) && typed !== Number(v.toFixed(4)) && Math.hypot(...next) > 1e-9)
                turn(next);
              else e.target.value = String(Number(v.toFixed(4)));
            }}
            onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
          />
        ))}
      </div>
      <div className="flex items-center gap-2">
        <NumberField
          label={axis >= 0 ? `${'xyz'[axis]} =` : 'at'}
          value={offset}
          unit={run.lengthUnit}
          onChange={(v) => !locked && set({ offset: v })}
        />
        <input
          type="range"
          aria-label="Place of the plane"
          className="min-w-0 flex-1"
          disabled={locked}
          min={low}
          max={high}
          step={(high - low) / 400 || 1}
          value={offset}
          onChange={(e) => set({ offset: roundTo(Number(e.target.value), high - low) }, `slide-${layer.id}`)}
        />
      </div>
    </div>
  );
}
