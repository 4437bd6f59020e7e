import { useEffect, useState } from 'react';
import type { Scale, Scene } from '#core/scene/document.ts';
import { type Snapped, snapWords } from '#core/scene/snap-words.ts';
import { LYING_PLACE, UPRIGHT_PLACE } from '#core/scene/things/legend.ts';
import type { Viewport } from '#stage/viewport.ts';
import { legendTitle, type WordsBox } from '#stage/words/paint-words.ts';
import { arrowKeys } from '#web/desks/shared/arrow-keys.ts';
import { edit, freshId, sceneNow, useDesk, useRun, useScene } from './desk-store.ts';
import { LegendBar } from './scale/LegendBar.tsx';

interface Props {
  viewport: Viewport;
  width: number;
  height: number;
}

interface Drag {
  id: string;
  key: string;
  /** From the pointer to the middle of what is dragged, in pixels. */
  dx: number;
  dy: number;
  guides: Snapped | null;
}

/** A pointer that moves less than this between down and up has clicked. */
const STILL = 3;
/** So near to a line, in pixels, things snap to it. */
const REACH = 7;

/** Legends and the time, made movable: a frame appears under the cursor and can be dragged; titles are edited in place. */
export function WordsHandles({ viewport, width, height }: Props) {
  const scene = useScene();
  const run = useRun();
  const [drag, setDrag] = useState<Drag | null>(null);
  const [titled, setTitled] = useState<string | null>(null);
  const scale = (viewport.pixelWidth || width) / Math.max(1, width);
  const shown = new Set(
    scene.legends.shown ? scene.scales.filter((s) => s.legend.visible).map((s) => s.id) : [],
  );
  const boxes = viewport.boxes
    .filter((b) => (b.kind === 'legend' ? shown.has(b.id) : scene.stamp.visible && run.steps.length > 0))
    .map((b) => inPage(b, scale));
  return (
    <>
      {boxes.map((box) => (
        <Handle
          key={box.id}
          box={box}
          others={boxes.filter((b) => b !== box)}
          width={width}
          height={height}
          drag={drag?.id === box.id ? drag : null}
          setDrag={setDrag}
          onTitle={() => setTitled(box.id)}
        />
      ))}
      {boxes.map((box) => {
        const of = scene.scales.find((s) => s.id === box.id);
        return of && box.bar && !drag ? (
          <LegendBar key={`${box.id} bar`} scale={of} bar={box.bar} width={width} height={height} />
        ) : null;
      })}
      {boxes.map((box) => {
        const of = scene.scales.find((s) => s.id === box.id);
        return of && box.id === titled ? (
          <TitleInput key={`${box.id} title`} scale={of} box={box} onDone={() => setTitled(null)} />
        ) : null;
      })}
      {drag?.guides?.across != null && (
        <div
          className="pointer-events-none absolute inset-y-0 w-px bg-accent"
          style={{ left: drag.guides.across }}
        />
      )}
      {drag?.guides?.down != null && (
        <div
          className="pointer-events-none absolute inset-x-0 h-px bg-accent"
          style={{ top: drag.guides.down }}
        />
      )}
    </>
  );
}

/** A box in pixels of the page instead of those of the picture. */
function inPage(box: WordsBox, scale: number): WordsBox {
  const smaller = <B extends { x: number; y: number; width: number; height: number }>(b: B): B => ({
    ...b,
    x: b.x / scale,
    y: b.y / scale,
    width: b.width / scale,
    height: b.height / scale,
  });
  return { ...smaller(box), bar: box.bar && smaller(box.bar), title: box.title && smaller(box.title) };
}

const move = (box: WordsBox, x: number, y: number, key: string): void => {
  const within = (v: number): number => Math.min(1, Math.max(0, v));
  const change = { x: within(x), y: within(y) };
  if (box.kind === 'legend') edit({ type: 'legend.change', id: box.id, change }, key);
  else edit({ type: 'setting.change', thing: 'stamp', change }, key);
};

const anchorOf = (box: WordsBox, scene: Scene): { x: number; y: number } =>
  box.kind === 'stamp' ? scene.stamp : scene.scales.find((s) => s.id === box.id)!.legend;

function turn(box: WordsBox): void {
  const legend = sceneNow().scales.find((s) => s.id === box.id)?.legend;
  if (!legend) return;
  const change = legend.upright ? { upright: false, ...LYING_PLACE } : { upright: true, ...UPRIGHT_PLACE };
  edit({ type: 'legend.change', id: box.id, change });
}

interface HandleProps {
  box: WordsBox;
  others: WordsBox[];
  width: number;
  height: number;
  drag: Drag | null;
  setDrag(drag: Drag | null): void;
  onTitle(): void;
}

function Handle({ box, others, width, height, drag, setDrag, onTitle }: HandleProps) {
  const scene = useScene();
  const isLegend = box.kind === 'legend';
  const of = isLegend ? ` of ${scene.scales.find((s) => s.id === box.id)?.name ?? ''}` : '';
  const name = `${isLegend ? 'Legend' : 'Time'}${of}`;
  return (
    // biome-ignore lint/a11y/useSemanticElements: it is moved by dragging, which a button would take for a press
    <div
      role="button"
      tabIndex={0}
      aria-label={`${name}: arrows move it${isLegend ? ', Enter renames it, T turns it' : ''}`}
      onKeyDown={(e) => {
        const by = arrowKeys[e.key];
        if (by) {
          const at = anchorOf(box, sceneNow());
          move(box, at.x + by[0] * 0.01, at.y + by[1] * 0.01, `keys-${box.id}`);
        } else if (e.key === 'Enter' && isLegend) onTitle();
        else if (e.key.toLowerCase() === 't' && isLegend) turn(box);
        else return;
        e.preventDefault();
        e.stopPropagation();
      }}
      data-handle={box.kind}
      title={isLegend ? 'Drag to move, double-click to edit the title' : 'Drag to move'}
      className="absolute cursor-move rounded-md border border-transparent hover:border-accent/60"
      style={{ left: box.x - 5, top: box.y - 5, width: box.width + 10, height: box.height + 10 }}
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        const frame = e.currentTarget.parentElement!.getBoundingClientRect();
        const middle = { x: box.x + (isLegend ? box.width / 2 : 0), y: box.y + box.height / 2 };
        setDrag({
          id: box.id,
          key: freshId('words'),
          dx: middle.x - (e.clientX - frame.left),
          dy: middle.y - (e.clientY - frame.top),
          guides: null,
        });
      }}
      onPointerMove={(e) => {
        if (!drag) return;
        const frame = e.currentTarget.parentElement!.getBoundingClientRect();
        const x = e.clientX - frame.left + drag.dx;
        const y = e.clientY - frame.top + drag.dy;
        const left = isLegend ? x - box.width / 2 : x;
        if (drag.guides === null && Math.hypot(left - box.x, y - box.height / 2 - box.y) < STILL) return;
        const asked = { x: left, y: y - box.height / 2, width: box.width, height: box.height };
        const free = e.altKey;
        const snap = free
          ? { dx: 0, dy: 0, across: null, down: null }
          : snapWords(asked, others, { width, height }, 0.02 * height, REACH);
        setDrag({ ...drag, guides: snap });
        move(box, (x + snap.dx) / width, (y + snap.dy) / height, drag.key);
      }}
      onPointerUp={() => setDrag(null)}
      onPointerCancel={() => setDrag(null)}
      onDoubleClick={() => isLegend && onTitle()}
    />
  );
}

/** The title of a legend, edited where it stands. */
function TitleInput({ scale, box, onDone }: { scale: Scale; box: WordsBox; onDone(): void }) {
  const run = useRun();
  const { title } = legendTitle({ ...scale, legend: { ...scale.legend, title: null } }, run);
  const place = box.title ?? box;
  useEffect(() => {
    useDesk.setState({ pointing: null });
  }, []);
  const finish = (text: string): void => {
    const own = text.trim();
    if (own !== (scale.legend.title ?? ''))
      edit({ type: 'legend.change', id: scale.id, change: { title: own === '' ? null : own } });
    onDone();
  };
  return (
    <input
      // biome-ignore lint/a11y/noAutofocus: it was opened to type in
      autoFocus
      aria-label="Title of the legend"
      data-handle
      className="field absolute z-20 font-semibold"
      style={{ left: place.x - 8, top: place.y - 4, width: Math.max(150, place.width + 16) }}
      defaultValue={scale.legend.title ?? ''}
      placeholder={title}
      onFocus={(e) => e.currentTarget.select()}
      onBlur={(e) => finish(e.currentTarget.value)}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') e.currentTarget.blur();
        if (e.key === 'Escape') {
          e.currentTarget.value = scale.legend.title ?? '';
          e.currentTarget.blur();
        }
      }}
    />
  );
}
