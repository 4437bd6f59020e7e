import {
  Eye,
  EyeOff,
  Focus,
  Gauge,
  Grid3x3,
  Hash,
  MousePointer2,
  Ruler,
  Scan,
  SquareDashed,
  Tag,
  TriangleRight,
  Type,
} from 'lucide-react';
import { type RefObject, use, useEffect, useState } from 'react';
import { partBounds, type RunDescription } from '#core/model/run.ts';
import type { Hook } from '#core/scene/annotations/attachment.ts';
import type { Scale } from '#core/scene/document.ts';
import { plainColours } from '#core/scene/layer-sentence.ts';
import { levelAt } from '#core/scene/scale-levels.ts';
import { settingOf } from '#core/scene/setting.ts';
import { partLook } from '#core/scene/things/part-look.ts';
import type { Picked } from '#stage/picking.ts';
import type { Viewport } from '#stage/viewport.ts';
import { measureFromPick, valueAtPick } from '#web/desks/gauges/gauge-at-picks.ts';
import type { AnyControl } from './controls/control-props.ts';
import { OneControl } from './controls/OneControl.tsx';
import { edit, openScenery, sceneNow, useDesk, useRun, useScene, useSettled } from './desk-store.ts';
import { FindingContext } from './finding-context.ts';
import { addProbePlane } from './layer-edits.ts';
import { lookAt } from './look-from.ts';
import { MENU_WIDTH, MenuLine, PictureMenu } from './PictureMenu.tsx';
import { hasRegions, hideRegion, regionsAt, showRegionAlone } from './regions.ts';
import { useSaidValue, ValueActs } from './scale/ValueMenu.tsx';
import { addWordsAt } from './words/word-edits.ts';

interface At {
  x: number;
  y: number;
  part: string;
  layer: string;
  /** Null on lines and dots. */
  cell: number | null;
  /** What it is coloured by there, or null. */
  value: number | null;
  picked: Picked;
}

/** A pointer that moves less than this between down and up has clicked. */
const STILL = 4;

/** The part that was clicked on the picture; while the view is being cleared, clicks hide parts at once. */
export function usePartMenu(
  viewport: Viewport | null,
  picture: RefObject<HTMLDivElement | null>,
): { at: At | null; close(): void; point(at: { x: number; y: number }): Promise<void> } {
  const [at, setAt] = useState<At | null>(null);
  const pickAt = async ({ x, y }: { x: number; y: number }) => {
    const { clientWidth, clientHeight } = picture.current!;
    // What was hidden just now may still be on the picture.
    const { parts } = sceneNow();
    return viewport!.pick(x / clientWidth, y / clientHeight, (p) => parts[p]?.hidden ?? false);
  };
  const show = async (place: { x: number; y: number }) => {
    const { clientWidth, clientHeight } = picture.current!;
    const piece = await viewport!.pickScenery(place.x / clientWidth, place.y / clientHeight);
    if (piece) {
      if (useDesk.getState().peeling) edit({ type: 'scenery.set', ids: [piece], change: { visible: false } });
      else openScenery(piece);
      return;
    }
    useDesk.setState({ chosenPiece: null });
    const picked = await pickAt(place);
    if (!picked) return;
    if (useDesk.getState().peeling)
      edit({ type: 'parts.change', parts: [picked.part], change: { hidden: true } });
    else {
      const { part, layer, cell, value } = picked;
      setAt({ ...place, part, layer, cell, value, picked });
    }
  };
  /** What a click does, for who points with the keyboard. */
  const point = async (place: { x: number; y: number }) => {
    const { pointing } = useDesk.getState();
    if (!pointing) return show(place);
    const picked = await pickAt(place);
    if (picked && pointing.onPick(picked, picked.cell)) useDesk.setState({ pointing: null });
  };
  useEffect(() => {
    const element = picture.current;
    if (!viewport || !element) return;
    let down: { x: number; y: number } | null = null;
    const onDown = (event: PointerEvent) => {
      const own = event.target === element.firstElementChild;
      down = own && event.button === 0 && !event.shiftKey ? { x: event.clientX, y: event.clientY } : null;
      if (own) setAt(null);
    };
    const onUp = async (event: PointerEvent) => {
      if (!down || Math.hypot(event.clientX - down.x, event.clientY - down.y) > STILL) return;
      const box = element.getBoundingClientRect();
      const x = event.clientX - box.left;
      const y = event.clientY - box.top;
      if (!useDesk.getState().pointing) await show({ x, y });
    };
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== 'Escape') return;
      setAt(null);
      useDesk.setState({ peeling: false, pointing: null });
    };
    element.addEventListener('pointerdown', onDown);
    element.addEventListener('pointerup', onUp);
    addEventListener('keydown', onKey);
    return () => {
      element.removeEventListener('pointerdown', onDown);
      element.removeEventListener('pointerup', onUp);
      removeEventListener('keydown', onKey);
    };
  }, [viewport, picture]);
  return { at, close: () => setAt(null), point };
}

/** What can be done with the part that was pointed at. */
export function PartMenu({
  x,
  y,
  part,
  layer,
  cell,
  value,
  picked,
  width,
  onClose,
}: At & { width: number; onClose(): void }) {
  const run = useRun();
  const edges = useScene().parts[part]?.edges ?? null;
  const act = (done: () => void) => () => {
    done();
    onClose();
  };
  const all = run.parts.map((p) => p.name);
  return (
    <PictureMenu
      label={`Part ${part}`}
      title={part}
      left={Math.min(x + 6, width - MENU_WIDTH - 8)}
      top={y}
      onClose={onClose}
    >
      <MenuLine
        label="Hide"
        onClick={act(() => edit({ type: 'parts.change', parts: [part], change: { hidden: true } }))}
      >
        <EyeOff size={15} />
      </MenuLine>
      <MenuLine label="Show alone" onClick={act(() => edit({ type: 'parts.alone', shown: [part], all }))}>
        <Focus size={15} />
      </MenuLine>
      <MenuLine label="Look at it" onClick={act(() => lookAtPart(run, part))}>
        <Scan size={15} />
      </MenuLine>
      <MenuLine
        label="Show every part"
        onClick={act(() => edit({ type: 'parts.change', parts: all, change: { hidden: false } }))}
      >
        <Eye size={15} />
      </MenuLine>
      <MenuLine
        label={edges === null ? 'Mesh edges' : edges ? 'No mesh edges' : 'Edges as its lines say'}
        onClick={act(() =>
          edit({
            type: 'parts.change',
            parts: [part],
            change: { edges: edges === null ? true : edges ? false : null },
          }),
        )}
      >
        <Grid3x3 size={15} />
      </MenuLine>
      <MenuLine label="Select for new lines" onClick={act(() => useDesk.setState({ selected: [part] }))}>
        <MousePointer2 size={15} />
      </MenuLine>
      {cell !== null && (
        <MenuLine label="Probe plane here" onClick={act(() => addProbePlane(picked))}>
          <SquareDashed size={15} />
        </MenuLine>
      )}
      <WordsHere picked={picked} act={act} />
      <NumbersHere picked={picked} act={act} />
      <Regions part={part} layer={layer} cell={cell} act={act} />
      {value !== null && <ValueHere layer={layer} value={value} onDone={onClose} />}
      <p className="head px-2 pt-1.5">Colour</p>
      <PartColours part={part} onChosen={onClose} />
    </PictureMenu>
  );
}

/** Fills the picture with a part, seen from where one looks now. */
function lookAtPart(run: RunDescription, name: string): void {
  const part = run.parts.find((p) => p.name === name);
  if (!part) return;
  const change = lookAt(partBounds(part), useDesk.getState());
  edit({ type: 'setting.change', thing: 'camera', change });
}

/** What can be done with the colours at the value there. */
function ValueHere({ layer: id, value, onDone }: { layer: string; value: number; onDone(): void }) {
  const { layers, scales } = useScene();
  const colour = layers.find((l) => l.id === id)?.colour;
  const scale = colour?.kind === 'field' ? scales.find((s) => s.id === colour.scale) : undefined;
  return scale ? <ScaleHere scale={scale} value={value} onDone={onDone} /> : null;
}

function ScaleHere({ scale, value, onDone }: { scale: Scale; value: number; onDone(): void }) {
  const settled = useSettled(scale);
  const near = levelAt(settled, settled.fraction(value));
  const here = value >= settled.low && value <= settled.high ? near : Number(value.toPrecision(4));
  const said = useSaidValue(scale, here);
  return (
    <div className="mt-1 border-t border-rule/70 pt-1">
      <p className="truncate px-2 text-xs font-medium text-soft tabular-nums">
        {scale.name} {said}
      </p>
      <ValueActs scale={scale} value={here} level={null} onDone={onDone} />
    </div>
  );
}

/** Words that hang on what was pointed at. */
function WordsHere({ picked, act }: { picked: Picked; act(done: () => void): () => void }) {
  const { nearest } = use(FindingContext);
  const add = (kind: 'label' | 'callout', on: Hook['on'], text: (unit: string) => string) =>
    act(() => void addWordsAt(kind, on, picked, nearest, text));
  return (
    <div className="mt-1 border-t border-rule/70 pt-1">
      <MenuLine label="Label with its value" onClick={add('label', 'node', (unit) => `{value}${unit}`)}>
        <Tag size={15} />
      </MenuLine>
      <MenuLine label="Label with its name" onClick={add('label', 'part', () => '{part}')}>
        <Type size={15} />
      </MenuLine>
      <MenuLine label="Callout here" onClick={add('callout', 'place', () => 'what is to be seen here')}>
        <Hash size={15} />
      </MenuLine>
    </div>
  );
}

/** Gauges of what was pointed at. */
function NumbersHere({ picked, act }: { picked: Picked; act(done: () => void): () => void }) {
  const { nearest } = use(FindingContext);
  return (
    <div className="mt-1 border-t border-rule/70 pt-1">
      <MenuLine label="Gauge its value" onClick={act(() => void valueAtPick(picked, nearest))}>
        <Gauge size={15} />
      </MenuLine>
      <MenuLine label="Distance from here" onClick={act(() => measureFromPick('distance', picked, nearest))}>
        <Ruler size={15} />
      </MenuLine>
      <MenuLine label="Angle here" onClick={act(() => measureFromPick('angle', picked, nearest))}>
        <TriangleRight size={15} />
      </MenuLine>
    </div>
  );
}

interface RegionsProps extends Pick<At, 'part' | 'layer' | 'cell'> {
  act(done: () => void): () => void;
}

/** The regions of the part that the files name and that were pointed at; or why there are none. */
function Regions({ part, layer: id, cell, act }: RegionsProps) {
  const run = useRun();
  const layer = useScene().layers.find((l) => l.id === id);
  const [found, setFound] = useState<string[] | null>(null);
  useEffect(() => {
    let here = true;
    if (cell !== null)
      regionsAt(run, part, cell).then(
        (names) => here && setFound(names),
        () => here && setFound([]),
      );
    return () => {
      here = false;
    };
  }, [run, part, cell]);
  if (!layer || cell === null) return null;
  if (!hasRegions(run, part))
    return (
      <p className="px-2 py-1 text-xs text-soft">
        The files name no regions of it; “Part sets” makes some of cells.
      </p>
    );
  if (found?.length === 0)
    return <p className="px-2 py-1 text-xs text-soft">No region of the files lies here.</p>;
  return (found ?? []).slice(0, 4).map((region) => (
    <div key={region} className="mt-1 border-t border-rule/70 pt-1">
      <p className="truncate px-2 text-xs font-medium text-soft" title={region}>
        region {region}
      </p>
      <MenuLine label="Hide the region" onClick={act(() => hideRegion(layer, region))}>
        <EyeOff size={15} />
      </MenuLine>
      <MenuLine label="Show the region alone" onClick={act(() => showRegionAlone(layer, region))}>
        <Focus size={15} />
      </MenuLine>
    </div>
  ));
}

/** Colours a part may have of its own, the way back to that of its line, and how much is seen through it. */
export function PartColours({ part, onChosen }: { part: string; onChosen?(): void }) {
  const [run, scene] = [useRun(), useScene()];
  const look = scene.parts[part];
  const own = look?.colour ?? null;
  const choose = (colour: string | null) => {
    edit({ type: 'parts.change', parts: [part], change: { colour, coversValues: true } });
    onChosen?.();
  };
  return (
    <div className="flex flex-wrap gap-1.5 px-2 py-1.5">
      <button
        type="button"
        className={`rounded-full border px-2 text-xs ${own === null ? 'border-accent' : 'border-rule'}`}
        onClick={() => choose(null)}
      >
        as its line
      </button>
      {plainColours.map(({ colour, name }) => (
        <button
          key={colour}
          type="button"
          title={name}
          aria-label={`Colour ${name}`}
          aria-pressed={own === colour}
          className={`size-5 rounded-full border ${own === colour ? 'border-accent outline-2 outline-accent' : 'border-rule'}`}
          style={{ background: colour }}
          onClick={() => choose(colour)}
        />
      ))}
      <div className="flex w-full flex-col gap-1 pt-1 text-xs">
        {partLook.controls
          .filter(({ key }) => key === 'opacity' || key === 'finish')
          .map((control) => (
            <OneControl
              key={control.key}
              control={control as unknown as AnyControl}
              options={{ ...partLook.plain, ...look }}
              setting={settingOf(run, scene)}
              at={['parts', part]}
              set={(change) =>
                edit({ type: 'parts.change', parts: [part], change }, `${control.key}-${part}`)
              }
            />
          ))}
      </div>
    </div>
  );
}
