import { useEffect, useRef, useState } from 'react';
import { CAPTION_OF_FILM } from '#core/motion/scene-at.ts';
import type { MoveSetting } from '#core/scene/annotations/annotation.ts';
import { annotationKind } from '#core/scene/annotations/registry.ts';
import { projectPoint } from '#core/scene/camera.ts';
import type { Annotation, Scale, Scene } from '#core/scene/document.ts';
import { nextLine, type Snapped, snapWords } from '#core/scene/snap-words.ts';
import { LYING_PLACE, UPRIGHT_PLACE } from '#core/scene/things/legend.ts';
import type { Viewport } from '#stage/viewport.ts';
import { legendTitle, type WordsBox } from '#stage/words/paint-words.ts';
import { arrowKeys } from '#web/desks/shared/arrow-keys.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { edit, sceneNow, useDesk, useRun, useScene } from './desk-store.ts';
import { LegendBar } from './scale/LegendBar.tsx';
import { TemplateField } from './words/TemplateField.tsx';

interface Props {
  viewport: Viewport;
  width: number;
  height: number;
}

interface Drag {
  id: string;
  key: string;
  /** Where the pointer went down, in pixels of the page. */
  from: { x: number; y: number };
  /** What is dragged, as it was then. */
  box: WordsBox;
  annotation: Annotation | null;
  guides: Snapped | null;
}

/** A pointer that moves less than this between down and up has clicked. */
const STILL = 3;
/** So near to a line, in pixels, things snap to it. */
const REACH = 7;
/** How far an arrow key moves something, as a share of the picture. */
const NUDGE = 0.01;
/** Room between things and the edge of the picture, as a share of its height. */
const MARGIN = 0.02;

/**
 * Legends, words, marks and the time, made movable: a frame appears under the cursor and can be dragged; titles and words
 * are edited in place.
 */
export function WordsHandles({ viewport, width, height }: Props) {
  const scene = useScene();
  const [drag, setDrag] = useState<Drag | null>(null);
  const [edited, setEdited] = useState<string | null>(null);
  const scale = (viewport.pixelWidth || width) / Math.max(1, width);
  const shown = new Set([
    ...(scene.legends.shown ? scene.scales.filter((s) => s.legend.visible).map((s) => s.id) : []),
    ...(scene.stamp.visible || scene.stamp.notes ? ['stamp'] : []),
    ...scene.annotations.filter((a) => a.visible && a.id !== CAPTION_OF_FILM).map((a) => a.id),
  ]);
  const boxes = viewport.boxes.filter((b) => shown.has(b.id)).map((b) => inPage(b, scale));
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
          onEdit={() => editWords(box, () => setEdited(box.id))}
        />
      ))}
      {boxes.map((box) => {
        const of = scene.scales.find((s) => s.id === box.id);
        return of && box.bar && !drag ? (
          <LegendBar key={`${box.id} bar`} scale={of} bar={box.bar} width={width} />
        ) : null;
      })}
      {boxes.map((box) => {
        if (box.id !== edited) return null;
        const of = scene.scales.find((s) => s.id === box.id);
        const annotation = scene.annotations.find((a) => a.id === box.id);
        const onDone = () => setEdited(null);
        if (annotation) return <WordsInput key={box.id} {...{ annotation, box, width, height, onDone }} />;
        return of ? <TitleInput key={box.id} scale={of} box={box} onDone={onDone} /> : null;
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
  const { anchor, bar, title } = box;
  return {
    ...smaller(box),
    bar: bar && smaller(bar),
    title: title && smaller(title),
    anchor: anchor && { x: anchor.x / scale, y: anchor.y / scale },
  };
}

/** Words are edited where they stand, what has none in its settings. */
function editWords({ kind, id }: WordsBox, inPlace: () => void): void {
  const annotation = sceneNow().annotations.find((a) => a.id === id);
  if (kind === 'legend' || (annotation && annotationKind(annotation.kind).text)) inPlace();
  else if (annotation) useDesk.setState({ openWords: id });
}

/**
 * Moves what is on the picture.
 *
 * @param from the box it had when the move began, and for words and marks all that was said of them then
 * @param by in pixels of the page
 */
function move(
  { box, annotation }: { box: WordsBox; annotation: Annotation | null },
  by: { x: number; y: number },
  size: { width: number; height: number },
  key: string,
): void {
  const within = (v: number): number => Math.min(1, Math.max(0, v));
  if (annotation) {
    const { camera } = sceneNow();
    const setting: MoveSetting = {
      ...size,
      box,
      anchor: box.anchor,
      project: (place) => {
        const { x, y, depth } = projectPoint(camera, place, size.width / size.height);
        return { x: x * size.width, y: y * size.height, depth };
      },
    };
    const change = annotationKind(annotation.kind).moved?.(annotation, by, setting);
    if (change) edit({ type: 'annotation.change', id: annotation.id, change }, key);
    return;
  }
  const left = box.kind === 'legend' ? box.width / 2 : 0;
  const change = {
    x: within((box.x + by.x + left) / size.width),
    y: within((box.y + by.y + box.height / 2) / size.height),
  };
  if (box.kind === 'legend') edit({ type: 'legend.change', id: box.id, change }, key);
  else edit({ type: 'setting.change', thing: 'stamp', change }, key);
}

function turn(box: WordsBox): void {
  const legend = sceneNow().scales.find((s) => s.id === box.id)?.legend;
  if (!legend) return;
  const change = legend.upright ? { upright: false, ...LYING_PLACE } : { upright: true, ...UPRIGHT_PLACE };
  edit({ type: 'legend.change', id: box.id, change });
}

type Point = { x: number; y: number };

/** What of the scene a box stands for now. */
function thingOf({ kind, id }: WordsBox, scene: Scene): object | undefined {
  if (kind === 'stamp') return scene.stamp;
  if (kind === 'legend') return scene.scales.find((s) => s.id === id)?.legend;
  return scene.annotations.find((a) => a.id === id);
}

interface HandleProps {
  box: WordsBox;
  others: WordsBox[];
  width: number;
  height: number;
  drag: Drag | null;
  setDrag(drag: Drag | null): void;
  onEdit(): void;
}

/** What it is called, and what the keys do with it. */
function nameOf(box: WordsBox): { name: string; keys: string; hint: string } {
  const scene = sceneNow();
  if (box.kind === 'stamp') return { name: 'Time', keys: '', hint: 'Drag to move' };
  if (box.kind === 'legend')
    return {
      name: `Legend of ${scene.scales.find((s) => s.id === box.id)?.name ?? ''}`,
      keys: ', Enter renames it, T turns it',
      hint: 'Drag to move, double-click to edit the title',
    };
  const kind = annotationKind(scene.annotations.find((a) => a.id === box.id)!.kind);
  return {
    name: kind.offered,
    keys: `, Enter ${kind.text ? 'edits its words' : 'opens its settings'}, Delete deletes it`,
    hint: `Drag to move, double-click to ${kind.text ? 'edit the words' : 'change it'}`,
  };
}

function Handle({ box, others, width, height, drag, setDrag, onEdit }: HandleProps) {
  const scene = useScene();
  const size = { width, height };
  const margin = MARGIN * height;
  const annotation = scene.annotations.find((a) => a.id === box.id) ?? null;
  if (box.kind === 'annotation' && !annotation) return null;
  const { name, keys, hint } = nameOf(box);
  // Until it is painted again, what was moved stands where it was moved to.
  const ahead = useRef<WordsBox | null>(null);
  if (box.of === thingOf(box, scene)) ahead.current = null;
  const here = ahead.current ?? box;
  const go = (from: { box: WordsBox; annotation: Annotation | null }, by: Point, key: string): void => {
    move(from, by, size, key);
    ahead.current = { ...from.box, x: from.box.x + by.x, y: from.box.y + by.y };
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: it is moved by dragging, which a button would take for a press
    <div
      role="button"
      tabIndex={0}
      aria-label={`${name}: arrows move it${keys}`}
      onKeyDown={(e) => {
        const to = arrowKeys[e.key];
        if (to) {
          const by = e.shiftKey
            ? nextLine(here, others, size, margin, to)
            : { x: to[0] * NUDGE * width, y: to[1] * NUDGE * height };
          go({ box: here, annotation }, by, `keys-${box.id}`);
        } else if (e.key === 'Enter' && box.kind !== 'stamp') onEdit();
        else if (e.key.toLowerCase() === 't' && box.kind === 'legend') turn(box);
        else if ((e.key === 'Delete' || e.key === 'Backspace') && annotation)
          edit({ type: 'annotation.remove', id: annotation.id });
        else return;
        e.preventDefault();
        e.stopPropagation();
      }}
      data-handle={box.kind}
      data-words={annotation?.kind}
      title={hint}
      className="absolute cursor-move rounded-md border border-transparent hover:border-accent/60"
      style={{ left: box.x - 5, top: box.y - 5, width: box.width + 10, height: box.height + 10 }}
      onPointerDown={(e) => {
        if (e.button !== 0 || useDesk.getState().pointing) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        const from = { x: e.clientX, y: e.clientY };
        setDrag({ id: box.id, key: freshId('words'), from, box: here, annotation, guides: null });
      }}
      onPointerMove={(e) => {
        if (!drag) return;
        const by = { x: e.clientX - drag.from.x, y: e.clientY - drag.from.y };
        if (drag.guides === null && Math.hypot(by.x, by.y) < STILL) return;
        const asked = { ...drag.box, x: drag.box.x + by.x, y: drag.box.y + by.y };
        const snap = e.altKey
          ? { dx: 0, dy: 0, across: null, down: null }
          : snapWords(asked, others, size, margin, REACH);
        setDrag({ ...drag, guides: snap });
        go(drag, { x: by.x + snap.dx, y: by.y + snap.dy }, drag.key);
      }}
      onPointerUp={() => setDrag(null)}
      onPointerCancel={() => setDrag(null)}
      onDoubleClick={onEdit}
    />
  );
}

interface WordsInputProps {
  annotation: Annotation;
  box: WordsBox;
  width: number;
  height: number;
  onDone(): void;
}

/** Words edited where they stand. */
function WordsInput({ annotation, box, width, height, onDone }: WordsInputProps) {
  const run = useRun();
  const kind = annotationKind(annotation.kind);
  const key = kind.text!;
  const [editing] = useState(() => freshId('words'));
  const wide = Math.max(220, Math.min(box.width + 24, width - 16));
  return (
    <div
      data-handle
      ref={(element) => {
        const field = element?.querySelector('textarea');
        if (field && document.activeElement !== field) field.select();
      }}
      className="absolute z-20"
      style={{
        left: Math.max(4, Math.min(box.x - 8, width - wide - 8)),
        top: Math.min(box.y - 4, height - 48),
        width: wide,
      }}
    >
      <TemplateField
        label={`Words of ${kind.name}`}
        lines={kind.controls.some((c) => c.kind === 'template' && c.key === key && c.lines === true)}
        value={String(annotation[key])}
        here={kind.here?.(annotation, run) ?? null}
        onChange={(text) =>
          edit({ type: 'annotation.change', id: annotation.id, change: { [key]: text } }, editing)
        }
        onDone={onDone}
      />
    </div>
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
