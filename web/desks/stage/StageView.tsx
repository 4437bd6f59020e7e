import { useEffect, useReducer, useRef, useState } from 'react';
import { projectPoint } from '#core/scene/camera.ts';
import { Viewport } from '#stage/viewport.ts';
import { CameraWay } from '#web/desks/reel/CameraWay.tsx';
import { asThumbnail, THUMBNAIL_WIDTH } from '#web/desks/shared/thumbnails.ts';
import { ComposingLines } from './ComposingLines.tsx';
import { useCameraGestures } from './camera-gestures.ts';
import type { DeskController } from './desk-controller.ts';
import { useDesk, useScene } from './desk-store.ts';
import { drawMissingShots } from './draw-shots.ts';
import { useFinishDrop } from './finishes/finish-drop.ts';
import { PartMenu, usePartMenu } from './PartMenu.tsx';
import { PreflightBadge } from './PreflightBadge.tsx';
import { ProbeNote, useProbe } from './Probe.tsx';
import { usePictureKeys } from './picture-keys.ts';
import { usePointing } from './pointing.ts';
import { StageHandles } from './StageHandles.tsx';
import { useSceneDrop } from './scene-drop.ts';
import { SceneryHandle } from './scenery/SceneryHandle.tsx';
import { ViewButtons } from './ViewButtons.tsx';
import { WipeHandle } from './WipeHandle.tsx';
import { WordsHandles } from './WordsHandles.tsx';

interface Props {
  controller: DeskController;
  onViewport(viewport: Viewport | null): void;
}

/** The stage: the picture with its words and handles, edge to edge or in the shape it is given out in. */
export function StageView({ controller, onViewport }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const picture = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const words = useRef<HTMLCanvasElement>(null);
  const [viewport, setViewport] = useState<Viewport | null>(null);
  const [drawn, setDrawn] = useState(false);
  const [, wordsMoved] = useReducer((n: number) => n + 1, 0);
  const [room, setRoom] = useState({ width: 0, height: 0 });
  const aspect = useDesk((s) => s.history.scene.picture.aspect);
  const trouble = useDesk((s) => s.trouble);
  const settled = useDesk((s) => s.settled && !s.busy);

  const size = pictureSize(room, aspect);

  useEffect(() => {
    let made: Viewport;
    try {
      made = new Viewport(canvas.current!, words.current!);
    } catch {
      useDesk.setState({
        trouble:
          'This browser offers no WebGL 2, which the stage draws with. Turn on hardware acceleration or use another browser.',
      });
      return;
    }
    made.mostPasses = Number(localStorage.getItem('passes-at-rest')) || Number.POSITIVE_INFINITY;
    made.onSettled = (done) => useDesk.setState({ settled: done });
    made.onDrawn = () => setDrawn(true);
    made.onWords = wordsMoved;
    made.onMissing = (trouble) => useDesk.setState({ trouble });
    made.onTrouble = (error) =>
      useDesk.setState({
        trouble: `The picture could not be drawn: ${error.message}. Reload the page; the scene is saved.`,
      });
    setViewport(made);
    onViewport(made);
    controller.attach(made);
    return () => {
      onViewport(null);
      made.dispose();
    };
  }, [controller]);

  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => {
      const { width, height } = entry.contentRect;
      setRoom({ width, height });
      if (height > 0) useDesk.setState({ stageAspect: width / height });
    });
    watch.observe(frame.current!);
    return () => watch.disconnect();
  }, []);

  useEffect(() => {
    const scale = Math.min(2, devicePixelRatio || 1);
    viewport?.resize(Math.round(size.width * scale), Math.round(size.height * scale));
  }, [viewport, size.width, size.height]);

  useEffect(() => {
    const { playing, tried, desk } = useDesk.getState();
    // What the film makes of it is not what the scene is known by.
    if (settled && viewport && !playing && !tried && desk !== 'reel')
      void thumbnailOf(viewport).then((t) => controller.saveThumbnail(t));
  }, [settled, viewport]);

  useEffect(() => {
    if (settled && viewport) useDesk.setState({ seen: viewport.seen() });
  }, [settled, viewport]);

  useEffect(() => {
    if (!settled || !viewport) return;
    let isOver = false;
    void drawMissingShots(controller, viewport, () => isOver);
    return () => {
      isOver = true;
    };
  }, [settled, viewport]);

  const flat = useDesk((s) => s.flat);
  const pointing = useDesk((s) => s.pointing);
  const busy = useDesk((s) => s.busy);
  const rectangle = usePointing(viewport, picture);
  useCameraGestures(picture, flat);
  const menu = usePartMenu(viewport, picture);
  useFinishDrop(viewport, picture);
  useSceneDrop(picture);
  const keys = usePictureKeys(size, flat, menu.point);
  const probe = useProbe(menu.at ? null : viewport, picture);

  return (
    <main aria-label="Stage" className="flex min-h-0 min-w-0 flex-1 flex-col">
      {/* Nothing covers the picture: titles stand at its top. */}
      <div className="flex h-9 shrink-0 items-center justify-between border-b border-rule bg-paper px-2.5">
        <ViewButtons />
        <PreflightBadge />
      </div>
      <div
        ref={frame}
        className="relative flex min-h-0 min-w-0 flex-1 items-center justify-center overflow-hidden bg-sunk"
      >
        <div
          ref={picture}
          id="picture"
          // biome-ignore lint/a11y/noNoninteractiveTabindex: it is turned and pointed at by keys
          tabIndex={0}
          role="application"
          aria-roledescription="picture"
          aria-label="The picture. Arrows turn it, with Shift they move it, plus and minus come nearer, Enter points."
          onKeyDown={keys.onKeyDown}
          onBlur={keys.onBlur}
          className="relative touch-none select-none focus-visible:outline-offset-[-3px]"
          style={{ width: size.width, height: size.height }}
          data-testid="picture"
          data-settled={settled}
        >
          <canvas ref={canvas} className="absolute inset-0 size-full" aria-label="The picture" />
          <canvas ref={words} className="pointer-events-none absolute inset-0 size-full" />
          <ComposingLines width={size.width} height={size.height} />
          {viewport && <WordsHandles viewport={viewport} width={size.width} height={size.height} />}
          {viewport && <StageHandles width={size.width} height={size.height} />}
          {viewport && <WipeHandle width={size.width} height={size.height} />}
          {viewport && <CameraWay width={size.width} height={size.height} />}
          {viewport && <SceneryHandle width={size.width} height={size.height} />}
          {keys.cross && <KeyCross {...keys.cross} />}
          <PointedOut width={size.width} height={size.height} />
          {rectangle && (
            <div
              className="pointer-events-none absolute border-2 border-accent bg-accent/10"
              style={rectangle}
            />
          )}
          {probe && <ProbeNote {...probe} width={size.width} />}
          {menu.at && <PartMenu {...menu.at} width={size.width} onClose={menu.close} />}
        </div>
        {pointing && (
          <p role="status" className="card absolute top-4 left-1/2 -translate-x-1/2 px-4 py-2 font-medium">
            {pointing.says}
          </p>
        )}
        {!drawn && !busy && !trouble && (
          <p role="status" className="absolute text-soft">
            The first picture is on its way …
          </p>
        )}
        {busy && (
          <p role="status" className="card absolute right-4 bottom-14 flex items-center gap-3 px-3 py-1.5">
            Working …
            <button type="button" className="quiet h-7" onClick={controller.cancel}>
              Cancel
            </button>
          </p>
        )}
        {trouble && (
          <p role="alert" className="card absolute top-4 left-4 max-w-md px-4 py-3">
            {trouble}
          </p>
        )}
      </div>
    </main>
  );
}

/** How long a place is pointed out, in milliseconds. */
const POINTED = 6000;

/** A ring around a place, seen through whatever stands before it. */
function PointedOut({ width, height }: { width: number; height: number }) {
  const place = useDesk((s) => s.pointedOut);
  const { camera } = useScene();
  useEffect(() => {
    if (!place) return;
    const timer = setTimeout(() => useDesk.setState({ pointedOut: null }), POINTED);
    return () => clearTimeout(timer);
  }, [place]);
  if (!place) return null;
  const { x, y } = projectPoint(camera, place, width / height);
  return (
    <span
      className="pointer-events-none absolute size-9 -translate-1/2 rounded-full border-[3px] border-accent outline-2 outline-sheet"
      style={{ left: x * width, top: y * height }}
      data-testid="pointed-out"
    />
  );
}

/** Where the keyboard points. */
function KeyCross({ x, y }: { x: number; y: number }) {
  return (
    <div className="pointer-events-none absolute" style={{ left: x, top: y }} data-testid="cross">
      <span className="absolute -left-3.5 h-0.5 w-7 -translate-y-1/2 bg-accent outline-1 outline-sheet" />
      <span className="absolute -top-3.5 h-7 w-0.5 -translate-x-1/2 bg-accent outline-1 outline-sheet" />
    </div>
  );
}

function pictureSize(
  room: { width: number; height: number },
  aspect: number | null,
): { width: number; height: number } {
  if (aspect === null) return { width: Math.floor(room.width), height: Math.floor(room.height) };
  const margin = 20;
  const width = Math.max(50, Math.min(room.width - 2 * margin, (room.height - 2 * margin) * aspect));
  return { width: Math.round(width), height: Math.round(width / aspect) };
}

/** A small copy of what is on the screen, made without keeping the page waiting. */
export const thumbnailOf = async (viewport: Viewport): Promise<string> =>
  asThumbnail(await viewport.smallPicture(THUMBNAIL_WIDTH));
