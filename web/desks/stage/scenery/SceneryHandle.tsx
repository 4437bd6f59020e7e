import { Move } from 'lucide-react';
import { useRef } from 'react';
import { boundsDiagonal } from '#core/model/mesh.ts';
import { runBounds } from '#core/model/run.ts';
import { add, dot, subtract, times, type Vector } from '#core/model/vectors.ts';
import { projectPoint, rayThrough } from '#core/scene/camera.ts';
import { upOf } from '#core/scene/things/upright.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { edit, useDesk, useRun, useScene } from '../desk-store.ts';
import { roundTo } from '../round-to.ts';

/** A level that is seen flatter than this is no level to drag on. */
const FLAT = 0.06;

/** The foot of the piece that was chosen, to be dragged over the level it stands on. */
export function SceneryHandle({ width, height }: { width: number; height: number }) {
  const scene = useScene();
  const bounds = runBounds(useRun());
  const chosen = useDesk((s) => s.chosenPiece);
  const piece = scene.scenery.find((s) => s.id === chosen);
  const drag = useRef<{ key: string; from: Vector; place: Vector } | null>(null);
  if (!piece?.visible || piece.locked) return null;
  const { camera } = scene;
  const aspect = width / height;
  const at = projectPoint(camera, piece.place, aspect);
  if (at.depth <= 0 && camera.projection === 'perspective') return null;
  const up = upOf(scene.upright);

  /** Where the pointer meets the level a place lies on. */
  const onLevel = (event: React.PointerEvent, place: Vector): Vector | null => {
    const box = event.currentTarget.parentElement!.getBoundingClientRect();
    const ray = rayThrough(
      camera,
      (event.clientX - box.left) / width,
      (event.clientY - box.top) / height,
      aspect,
    );
    const slope = dot(ray.along, up);
    if (Math.abs(slope) < FLAT) return null;
    const way = dot(subtract(place, ray.from), up) / slope;
    return way > 0 ? add(ray.from, times(ray.along, way)) : null;
  };
  return (
    <button
      type="button"
      data-handle="scenery"
      aria-label="Drag the scenery over the level it stands on"
      title="Drag it over the level it stands on"
      className="absolute flex size-7 -translate-x-1/2 -translate-y-1/2 cursor-grab items-center justify-center rounded-full border-2 border-accent bg-sheet/95 text-accent shadow-md ring-4 ring-accent/25 active:cursor-grabbing"
      style={{ left: at.x * width, top: at.y * height }}
      onPointerDown={(e) => {
        const from = e.button === 0 ? onLevel(e, piece.place) : null;
        if (!from) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        drag.current = { key: freshId('scenery-drag'), from, place: piece.place };
      }}
      onPointerMove={(e) => {
        const begin = drag.current;
        const to = begin && onLevel(e, begin.place);
        if (!begin || !to) return;
        const moved = add(begin.place, subtract(to, begin.from));
        const place = moved.map((v) => roundTo(v, boundsDiagonal(bounds)));
        edit({ type: 'scenery.change', id: piece.id, change: { place } }, begin.key);
      }}
      onPointerUp={() => {
        drag.current = null;
      }}
    >
      <Move size={14} />
    </button>
  );
}
