import { useEffect, useReducer, useRef, useState } from 'react';
import { type Pane, pairOf } from '#core/beside/side-by-side.ts';
import { DIFFERENCE, type PlacedPane, sideLayout } from '#core/beside/side-layout.ts';
import { editSide, useBeside, useSide } from './beside-store.ts';
import { CurvesPane } from './CurvesPane.tsx';
import { DifferencePane } from './DifferencePane.tsx';
import { LegendStrip } from './LegendStrip.tsx';
import { PaneHead } from './PaneHead.tsx';
import { PanePicture } from './PanePicture.tsx';
import { ReadingsPane } from './ReadingsPane.tsx';
import type { SideController } from './side-controller.ts';

/** Height of the letters of titles, in pixels. */
const LETTERS = 14;
/** Room around all panes, in pixels. */
const MARGIN = 8;
/** How long one of two that blink is seen, in milliseconds. */
const BLINK = 700;

interface Props {
  controller: SideController;
  /** What can be taken hold of on the chosen picture is shown. */
  editing: boolean;
}

/** All panes, laid out as they are given out. */
export function SidePanes({ controller, editing }: Props) {
  const side = useSide();
  const room = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [, drawnAnew] = useReducer((n: number) => n + 1, 0);
  const onShow = useBeside((s) => s.onShow);
  const blinked = useBlinking(side.show.as === 'blink');
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => {
      const { width, height } = entry.contentRect;
      setSize({ width: Math.floor(width), height: Math.floor(height) });
    });
    watch.observe(room.current!);
    return () => watch.disconnect();
  }, []);
  // The legends are known when the panes have been drawn with them.
  useEffect(drawnAnew, [onShow, side]);
  const { legends, notes } = controller.drawn;
  const layout = size.width > 0 ? sideLayout(side, size, LETTERS, legends.length > 0) : null;
  const byId = new Map(side.panes.map((p) => [p.id, p]));
  const pair = pairOf(side);
  const upon = pair && ['wipe', 'blink', 'blend'].includes(side.show.as) ? pair : null;
  return (
    <>
      <ScaleNotes notes={notes} />
      <div className="min-h-0 flex-1" style={{ padding: MARGIN }}>
        <div ref={room} className="relative size-full">
          {layout?.panes.map((placed) => (
            <PlacedHere
              key={placed.id}
              placed={placed}
              pane={byId.get(placed.id) ?? null}
              controller={controller}
              editing={editing}
              over={upon?.[0].id === placed.id ? overStyle(side.show, blinked) : {}}
            />
          ))}
          {layout && upon && side.show.as === 'wipe' && (
            <WipeLine picture={layout.panes[0].picture} share={side.show.share} />
          )}
          {layout?.legend && <LegendStrip controller={controller} box={layout.legend} />}
          {side.panes.length === 0 && (
            <p className="absolute inset-0 grid place-items-center text-soft">
              Nothing stands here yet: add runs, scenes or steps above.
            </p>
          )}
        </div>
      </div>
    </>
  );
}

/** How the first of two is seen upon the second. */
function overStyle(
  { as, share }: { as: string; share: number },
  blinked: boolean,
): { clipPath?: string; opacity?: number } {
  if (as === 'wipe') return { clipPath: `inset(0 ${100 * (1 - share)}% 0 0)` };
  return { opacity: as === 'blend' ? share : blinked ? 0 : 1 };
}

function useBlinking(on: boolean): boolean {
  const [blinked, setBlinked] = useState(false);
  useEffect(() => {
    if (!on) return;
    const timer = setInterval(() => setBlinked((b) => !b), BLINK);
    return () => {
      clearInterval(timer);
      setBlinked(false);
    };
  }, [on]);
  return blinked;
}

interface PlacedProps {
  placed: PlacedPane;
  pane: Pane | null;
  controller: SideController;
  editing: boolean;
  over: { clipPath?: string; opacity?: number };
}

function PlacedHere({ placed: { id, title, picture }, pane, controller, editing, over }: PlacedProps) {
  if (id === DIFFERENCE) return <DifferencePane title={title} picture={picture} controller={controller} />;
  if (!pane) return null;
  return (
    <>
      <PaneHead pane={pane} box={title} />
      {pane.kind === 'scene' ? (
        <PanePicture
          key={`${pane.id} ${pane.run}`}
          pane={pane}
          box={picture}
          controller={controller}
          editing={editing}
          over={over}
        />
      ) : pane.kind === 'curves' ? (
        <CurvesPane pane={pane} box={picture} controller={controller} />
      ) : (
        <ReadingsPane box={picture} controller={controller} />
      )}
    </>
  );
}

/** The line between two that lie upon each other, which is dragged. */
function WipeLine({ picture, share }: { picture: PlacedPane['picture']; share: number }) {
  const [held, setHeld] = useState(false);
  const to = (x: number): void =>
    editSide({ type: 'side.show', change: { share: Math.max(0, Math.min(1, x)) } }, 'share');
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label="How much of the first is seen"
      aria-valuenow={Math.round(100 * share)}
      aria-valuemin={0}
      aria-valuemax={100}
      className="absolute z-10 w-4 -translate-x-1/2 cursor-ew-resize touch-none"
      style={{ left: picture.x + share * picture.width, top: picture.y, height: picture.height }}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        setHeld(true);
      }}
      onPointerMove={(e) => {
        if (!held) return;
        const room = e.currentTarget.parentElement!.getBoundingClientRect();
        to((e.clientX - room.left - picture.x) / picture.width);
      }}
      onPointerUp={() => setHeld(false)}
      onKeyDown={(e) => {
        if (e.key === 'ArrowLeft') to(share - 0.02);
        else if (e.key === 'ArrowRight') to(share + 0.02);
        else return;
        e.preventDefault();
      }}
    >
      <span className="absolute inset-y-0 left-1/2 w-0.5 -translate-x-1/2 bg-accent outline-1 outline-sheet" />
      <span className="absolute top-1/2 left-1/2 size-4 -translate-1/2 rounded-full border-2 border-sheet bg-accent" />
    </div>
  );
}

/** Where one colour does not mean one value in all panes. */
function ScaleNotes({ notes }: { notes: readonly string[] }) {
  if (notes.length === 0) return null;
  return (
    <p role="status" className="border-b border-rule bg-accent-wash px-4 py-1.5 text-sm">
      {notes.join(' ')}
    </p>
  );
}
