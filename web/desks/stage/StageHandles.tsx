import { Circle, Lock, Move, MoveHorizontal } from 'lucide-react';
import { useRef } from 'react';
import { boundsCentre, boundsDiagonal } from '#core/model/mesh.ts';
import { runBounds } from '#core/model/run.ts';
import { add, dot, subtract, times, unit, type Vector } from '#core/model/vectors.ts';
import type { Handle } from '#core/ops/chain/operation.ts';
import { understood } from '#core/ops/chain/understood.ts';
import { boundsSizes, movingRange } from '#core/ops/kernels/planes.ts';
import { cameraAxes, projectPoint } from '#core/scene/camera.ts';
import { movedInPicture } from '#core/scene/camera-moves.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { edit, useDesk, useRun, useScene } from './desk-store.ts';
import { roundTo } from './round-to.ts';

interface Size {
  width: number;
  height: number;
}

type Options = Record<string, unknown>;

/** What operations can be taken hold of on the picture: planes along their normal, places, radii. */
export function StageHandles(size: Size) {
  const scene = useScene();
  const openLayer = useDesk((s) => s.openLayer);
  const draft = useDesk((s) => s.draft);
  const box = draft?.rule.kind === 'box' ? draft.rule : null;
  const ofDraft = (['low', 'high'] as const).flatMap((key) =>
    box && draft
      ? [
          <OneHandle
            key={`draft/${key}`}
            handle={{ kind: 'place', key }}
            options={{ ...box }}
            name="box"
            open
            onHold={() => undefined}
            onMove={(change) =>
              useDesk.setState({ draft: { ...draft, rule: { ...box, ...change } as typeof box } })
            }
            {...size}
          />,
        ]
      : [],
  );
  const ofLayers = scene.layers.flatMap((layer) =>
    !layer.visible
      ? []
      : layer.chain.flatMap((step) => {
          const known = step.off ? null : understood(step);
          if (!known) return [];
          const { operation } = known;
          const options = known.options as Options;
          return (operation.handles?.(options) ?? []).map((handle: Handle<Options>) => (
            <OneHandle
              key={`${layer.id}/${step.id}/${handle.kind}/${'key' in handle ? handle.key : ''}`}
              handle={handle}
              options={options}
              onHold={() => useDesk.setState({ openLayer: layer.id })}
              onMove={(change, key) =>
                edit({ type: 'chain.change', id: layer.id, step: step.id, options: change }, key)
              }
              name={operation.name}
              open={openLayer === layer.id}
              {...size}
            />
          ));
        }),
  );
  return [...ofLayers, ...ofDraft];
}

interface HandleProps extends Size {
  handle: Handle<Options>;
  options: Options;
  name: string;
  open: boolean;
  onHold(): void;
  onMove(change: Options, key: string): void;
}

interface Grip {
  /** Where it is on the model. */
  at: Vector;
  /** It moves along this only; null: in the plane of the picture. */
  along: Vector | null;
  moved(by: Vector): Options;
  label: string;
}

function OneHandle({ handle, options, name, open, onHold, onMove, width, height }: HandleProps) {
  const { camera } = useScene();
  const run = useRun();
  const drag = useRef<{ key: string; x: number; y: number; grip: Grip } | null>(null);
  const bounds = runBounds(run);
  const { right, up } = cameraAxes(camera);
  const grip = gripOf(handle, options, bounds, up, right, name);
  const reach = boundsDiagonal(bounds) * 0.05;
  const aspect = width / height;
  const at = projectPoint(camera, grip.at, aspect);
  if (at.depth <= 0 && camera.projection === 'perspective') return null;
  const locked = options.locked === true;
  const tip = grip.along && projectPoint(camera, add(grip.at, times(grip.along, reach)), aspect);
  const along = tip ? [(tip.x - at.x) * width, (tip.y - at.y) * height] : [0, 0];
  const pixels = Math.hypot(...along);
  const straightOn = grip.along !== null && pixels < 3;

  const move = (event: React.PointerEvent) => {
    const begin = drag.current;
    if (!begin || locked) return;
    const dx = event.clientX - begin.x;
    const dy = event.clientY - begin.y;
    let by: Vector;
    if (!begin.grip.along) by = movedInPicture(camera, at.depth, dx / height, -dy / height);
    else {
      // Seen straight on, there is no direction on the picture: up and down moves it.
      const way = straightOn
        ? (-dy / height) * boundsDiagonal(bounds)
        : ((dx * along[0] + dy * along[1]) / (pixels * pixels)) * reach;
      by = times(begin.grip.along, way);
    }
    onMove(begin.grip.moved(by), begin.key);
  };

  return (
    <button
      type="button"
      data-handle={handle.kind}
      aria-label={locked ? `${name}, locked` : grip.label}
      title={locked ? 'Locked; unlock it in its line' : grip.label}
      className={`absolute flex -translate-x-1/2 -translate-y-1/2 items-center justify-center rounded-full border-2 bg-sheet/95 shadow-md ${handle.kind === 'plane' ? 'size-8' : 'size-6'} ${locked ? 'cursor-default border-rule text-soft' : 'cursor-grab border-accent text-accent active:cursor-grabbing'} ${open ? 'ring-4 ring-accent/25' : ''}`}
      style={{ left: at.x * width, top: at.y * height }}
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        drag.current = { key: freshId('handle'), x: e.clientX, y: e.clientY, grip };
        onHold();
      }}
      onPointerMove={move}
      onPointerUp={() => {
        drag.current = null;
      }}
    >
      {locked ? (
        <Lock size={14} />
      ) : handle.kind === 'place' ? (
        <Move size={13} />
      ) : handle.kind === 'radius' ? (
        <Circle size={11} />
      ) : (
        <MoveHorizontal
          size={18}
          strokeWidth={2.4}
          style={{
            transform: `rotate(${straightOn ? -90 : (Math.atan2(along[1], along[0]) * 180) / Math.PI}deg)`,
          }}
        />
      )}
    </button>
  );
}

function gripOf(
  handle: Handle<Options>,
  options: Options,
  bounds: ReturnType<typeof runBounds>,
  up: Vector,
  right: Vector,
  name: string,
): Grip {
  const round = (v: number): number => roundTo(v, boundsDiagonal(bounds));
  if (handle.kind === 'plane') {
    const normal = unit(options[handle.normal] as Vector);
    const offset = options[handle.offset] as number;
    const centre = boundsCentre(bounds);
    // At the upper rim of the plane, out of the way of what is looked at.
    const inPlane = add(up, times(normal, -dot(up, normal)));
    const sizes = boundsSizes(bounds).filter((s) => s > 0);
    const rise = Math.hypot(...inPlane) > 0.15 ? 0.42 * Math.min(...sizes) : 0;
    const on = add(add(centre, times(normal, offset - dot(centre, normal))), times(inPlane, rise));
    const [low, high] = movingRange(bounds, normal, handle, options);
    return {
      at: on,
      along: normal,
      label: `Drag the plane of the ${name.toLowerCase()} along its normal`,
      moved: (by) => ({
        [handle.offset]: roundTo(
          Math.min(high, Math.max(low, offset + dot(by, normal))),
          boundsDiagonal(bounds),
        ),
      }),
    };
  }
  if (handle.kind === 'radius') {
    const centre = options[handle.centre] as Vector;
    const radius = options[handle.key] as number;
    return {
      at: add(centre, times(right, radius)),
      along: right,
      label: `Drag the radius of the ${name.toLowerCase()}`,
      moved: (by) => ({ [handle.key]: round(Math.max(0, radius + dot(by, right))) }),
    };
  }
  const place = options[handle.key] as Vector;
  return {
    at: place,
    along: null,
    label: `Drag the ${handle.key === 'centre' ? 'centre' : 'corner'} of the ${name.toLowerCase()}`,
    moved: (by) => ({ [handle.key]: subtract(place, times(by, -1)).map(round) }),
  };
}
