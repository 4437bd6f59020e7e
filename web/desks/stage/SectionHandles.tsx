import { Lock, MoveHorizontal } from 'lucide-react';
import { useRef } from 'react';
import { boundsCentre, boundsDiagonal } from '#core/model/mesh.ts';
import { runBounds } from '#core/model/run.ts';
import { type SectionOptions, section } from '#core/ops/section.ts';
import { add, cameraAxes, dot, projectPoint, times, type Vector } from '#core/scene/camera.ts';
import type { Layer } from '#core/scene/document.ts';
import { edit, freshId, useDesk, useRun, useScene } from './desk-store.ts';
import { planeRange } from './plane-range.ts';

interface Props {
  width: number;
  height: number;
}

/** A handle in the middle of each section: drag it along the normal of its plane. */
export function SectionHandles({ width, height }: Props) {
  const scene = useScene();
  const openLayer = useDesk((s) => s.openLayer);
  return scene.layers.flatMap((layer) =>
    layer.visible
      ? layer.chain.map((step, i) =>
          step.op === section.id ? (
            <SectionHandle
              key={`${layer.id}/${i}`}
              layer={layer}
              step={i}
              options={step.options as SectionOptions}
              open={openLayer === layer.id}
              width={width}
              height={height}
            />
          ) : null,
        )
      : [],
  );
}

interface HandleProps extends Props {
  layer: Layer;
  step: number;
  options: SectionOptions;
  open: boolean;
}

function SectionHandle({ layer, step, options, open, width, height }: HandleProps) {
  const { camera } = useScene();
  const run = useRun();
  const drag = useRef<{ key: string; x: number; y: number; offset: number } | null>(null);
  const bounds = runBounds(run);
  const aspect = width / height;
  const centre = boundsCentre(bounds);
  const normal = options.normal as Vector;
  // The handle sits at the upper rim of the plane, out of the way of what is looked at.
  const { up } = cameraAxes(camera);
  const inPlane = add(up, times(normal, -dot(up, normal)));
  const rise = Math.hypot(...inPlane) > 0.15 ? 0.42 * Math.min(...sizes(bounds)) : 0;
  const on = add(add(centre, times(normal, options.offset - dot(centre, normal))), times(inPlane, rise));
  const reach = boundsDiagonal(bounds) * 0.05;
  const at = projectPoint(camera, on, aspect);
  const tip = projectPoint(camera, add(on, times(normal, reach)), aspect);
  if (at.depth <= 0 && camera.projection === 'perspective') return null;
  const along = [(tip.x - at.x) * width, (tip.y - at.y) * height];
  const pixels = Math.hypot(...along);
  const x = at.x * width;
  const y = at.y * height;
  const angle = (Math.atan2(along[1], along[0]) * 180) / Math.PI;
  const straightOn = pixels < 3;

  const move = (event: React.PointerEvent) => {
    const begin = drag.current;
    if (!begin || options.locked) return;
    const dx = event.clientX - begin.x;
    const dy = event.clientY - begin.y;
    // Seen straight on, the plane has no direction on the picture: up and down moves it.
    const moved = straightOn
      ? (-dy / height) * boundsDiagonal(bounds)
      : ((dx * along[0] + dy * along[1]) / (pixels * pixels)) * reach;
    const [low, high] = planeRange(bounds, normal);
    const offset = Math.min(high, Math.max(low, begin.offset + moved));
    edit(
      { type: 'chain.change', id: layer.id, step, options: { offset: roundTo(offset, high - low) } },
      begin.key,
    );
  };

  return (
    <button
      type="button"
      data-handle="section"
      aria-label={options.locked ? 'Section, locked' : 'Drag the section along its normal'}
      title={options.locked ? 'Locked; unlock it in its line' : 'Drag the section'}
      className={`absolute flex size-8 -translate-x-1/2 -translate-y-1/2 items-center justify-center rounded-full border-2 bg-sheet/95 shadow-md ${options.locked ? 'cursor-default border-rule text-soft' : 'cursor-grab border-accent text-accent active:cursor-grabbing'} ${open ? 'ring-4 ring-accent/25' : ''}`}
      style={{ left: x, top: y }}
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        drag.current = { key: freshId('plane'), x: e.clientX, y: e.clientY, offset: options.offset };
        useDesk.setState({ openLayer: layer.id });
      }}
      onPointerMove={move}
      onPointerUp={() => {
        drag.current = null;
      }}
    >
      {options.locked ? (
        <Lock size={14} />
      ) : (
        <MoveHorizontal
          size={18}
          strokeWidth={2.4}
          style={{ transform: `rotate(${straightOn ? -90 : angle}deg)` }}
        />
      )}
    </button>
  );
}

const sizes = (b: ReturnType<typeof runBounds>): number[] =>
  [b[1] - b[0], b[3] - b[2], b[5] - b[4]].filter((s) => s > 0);

/** A thousandth of the range is finer than a drag. */
export function roundTo(value: number, range: number): number {
  const grain = 10 ** Math.floor(Math.log10(Math.max(range, 1e-30) / 1000));
  return Number((Math.round(value / grain) * grain).toPrecision(12));
}
