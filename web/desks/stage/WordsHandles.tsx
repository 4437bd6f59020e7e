import { useState } from 'react';
import type { Viewport } from '#stage/viewport.ts';
import type { WordsBox } from '#stage/words/paint-words.ts';
import { arrowKeys } from '#web/desks/shared/arrow-keys.ts';
import { edit, freshId, sceneNow, useRun, useScene } from './desk-store.ts';

interface Props {
  viewport: Viewport;
  width: number;
  height: number;
}

/** Legends and the time, made movable: a frame appears under the cursor and can be dragged. */
export function WordsHandles({ viewport, width, height }: Props) {
  const scene = useScene();
  const run = useRun();
  const [drag, setDrag] = useState<{ id: string; key: string; dx: number; dy: number } | null>(null);
  const scale = (viewport.pixelWidth || width) / Math.max(1, width);
  const shown = new Set(scene.scales.filter((s) => s.legend.visible).map((s) => s.id));
  const boxes = viewport.boxes.filter((b) =>
    b.kind === 'legend' ? shown.has(b.id) : scene.stamp.visible && run.steps.length > 0,
  );

  const move = (box: WordsBox, x: number, y: number, key: string) => {
    if (box.kind === 'legend') edit({ type: 'legend.change', id: box.id, change: { x, y } }, key);
    else edit({ type: 'setting.change', thing: 'stamp', change: { x, y } }, key);
  };

  const legendName = (id: string): string => scene.scales.find((s) => s.id === id)?.name ?? '';
  const turn = (box: WordsBox) => {
    if (box.kind !== 'legend') return;
    const upright = !scene.scales.find((s) => s.id === box.id)!.legend.upright;
    edit({
      type: 'legend.change',
      id: box.id,
      change: upright ? { upright, x: 0.925, y: 0.5 } : { upright, x: 0.5, y: 0.08 },
    });
  };

  return boxes.map((box) => {
    const left = box.x / scale;
    const top = box.y / scale;
    const name = box.kind === 'legend' ? 'Legend' : 'Time';
    return (
      // biome-ignore lint/a11y/useSemanticElements: it is moved by dragging, which a button would take for a press
      <div
        key={box.id}
        role="button"
        tabIndex={0}
        aria-label={`${name}${box.kind === 'legend' ? ` of ${legendName(box.id)}` : ''}: arrows move it${box.kind === 'legend' ? ', Enter turns it' : ''}`}
        onKeyDown={(e) => {
          const by = arrowKeys[e.key];
          if (by) {
            const at = anchorOf(box, sceneNow());
            const clamp = (v: number) => Math.min(1, Math.max(0, v));
            move(box, clamp(at.x + by[0] * 0.01), clamp(at.y + by[1] * 0.01), `keys-${box.id}`);
          } else if (e.key === 'Enter') turn(box);
          else return;
          e.preventDefault();
          e.stopPropagation();
        }}
        data-handle={box.kind}
        title={`${name}: drag to move${box.kind === 'legend' ? ', double-click to turn' : ''}`}
        className="absolute cursor-move rounded-md border border-transparent hover:border-accent/60"
        style={{
          left: left - 5,
          top: top - 5,
          width: box.width / scale + 10,
          height: box.height / scale + 10,
        }}
        onPointerDown={(e) => {
          if (e.button !== 0) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          const at = anchorOf(box, sceneNow());
          const frame = e.currentTarget.parentElement!.getBoundingClientRect();
          setDrag({
            id: box.id,
            key: freshId('words'),
            dx: at.x * width - (e.clientX - frame.left),
            dy: at.y * height - (e.clientY - frame.top),
          });
        }}
        onPointerMove={(e) => {
          if (drag?.id !== box.id) return;
          const frame = e.currentTarget.parentElement!.getBoundingClientRect();
          const x = (e.clientX - frame.left + drag.dx) / width;
          const y = (e.clientY - frame.top + drag.dy) / height;
          move(box, Math.min(1, Math.max(0, x)), Math.min(1, Math.max(0, y)), drag.key);
        }}
        onPointerUp={() => setDrag(null)}
        onDoubleClick={() => turn(box)}
      />
    );
  });
}

function anchorOf(box: WordsBox, scene: ReturnType<typeof sceneNow>): { x: number; y: number } {
  return box.kind === 'stamp' ? scene.stamp : scene.scales.find((s) => s.id === box.id)!.legend;
}
