import { ChevronFirst, ChevronLast, Pause, Play, ZoomIn, ZoomOut } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { filmPictures } from '#core/motion/reel-facts.ts';
import { sceneThing } from '#core/scene/things/registry.ts';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { Chooser } from '#web/desks/stage/Chooser.tsx';
import type { DeskController } from '#web/desks/stage/desk-controller.ts';
import { goToFilmTime, useDesk, useKeptScene } from '#web/desks/stage/desk-store.ts';
import { ThingControls } from '#web/desks/stage/SettingLines.tsx';
import { AddMotion } from './AddMotion.tsx';
import { WayButton } from './CameraWay.tsx';
import { ChosenKeys } from './ChosenKeys.tsx';
import { FilmFacts } from './FilmFacts.tsx';
import { HeightEdge } from './HeightEdge.tsx';
import { LaneRows } from './LaneRows.tsx';
import { useKeyDrag } from './lane-drag.ts';
import { MarkerRow } from './MarkerRow.tsx';
import { ReelRuler } from './ReelRuler.tsx';
import { NAMES, sayFilmTime, type TimeView, timeScale, zoomedAt } from './time-scale.ts';

const NEARER = 1.6;
/** Height it has until it is made another, in pixels. */
const USUAL_HEIGHT = 284;

/** The film of the scene below the stage: what moves, when, and how. */
export function ReelStrip({ controller }: { controller: DeskController }) {
  const { reel, lanes } = useKeptScene();
  const time = useDesk((s) => s.filmTime);
  const [view, setView] = useState<TimeView>({ zoom: 1, left: 0 });
  const tracks = useRef<HTMLDivElement>(null);
  const [height, setHeight] = useState(USUAL_HEIGHT);
  const [width, setWidth] = useState(600);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => setWidth(Math.max(100, entry.contentRect.width - NAMES)));
    watch.observe(tracks.current!);
    return () => watch.disconnect();
  }, []);
  const scale = timeScale(reel.seconds, width, view);
  const dragging = useKeyDrag(scale);
  const zoom = (factor: number, at = time) => setView(zoomedAt(view, reel.seconds, at, factor));
  return (
    <section
      id="time"
      aria-label="Reel"
      className="@container relative flex shrink-0 flex-col border-t border-rule bg-paper"
      style={{ height }}
    >
      <HeightEdge height={height} onHeight={setHeight} />
      <div className="flex h-12 shrink-0 items-center gap-3 overflow-x-auto px-4">
        <PlayFilm />
        <p className="shrink-0 tabular-nums">
          <span className="font-medium">{sayFilmTime(time)} s</span>
          <span className="text-soft">
            {' of '}
            <Chooser
              word={`${Number(reel.seconds.toPrecision(6))} s at ${Number(reel.rate.toPrecision(5))} a second`}
              label="The film as a whole"
              wide
            >
              <ThingControls thing={sceneThing('reel')} />
            </Chooser>
          </span>
        </p>
        <span className="flex-1" />
        <WayButton />
        <Keeping />
        <AddMotion />
        <div className="flex shrink-0">
          <button
            type="button"
            className="mark"
            aria-label="Show more of the time"
            onClick={() => zoom(1 / NEARER)}
          >
            <ZoomOut size={16} />
          </button>
          <button
            type="button"
            className="mark"
            aria-label="Show the time larger"
            onClick={() => zoom(NEARER)}
          >
            <ZoomIn size={16} />
          </button>
        </div>
      </div>
      <div
        ref={tracks}
        className="relative min-h-0 flex-1 overflow-x-hidden overflow-y-auto border-t border-rule"
        onWheel={(e) => {
          if (!e.ctrlKey && !e.metaKey) {
            if (e.deltaX !== 0) setView({ ...view, left: Math.max(0, view.left + e.deltaX / scale.pace) });
            return;
          }
          const place = e.clientX - tracks.current!.getBoundingClientRect().left - NAMES;
          zoom(Math.exp(-e.deltaY * 0.002), scale.left + place / scale.pace);
        }}
      >
        <ReelRuler scale={scale} />
        <MarkerRow scale={scale} />
        <LaneRows scale={scale} dragging={dragging} />
        {lanes.length > 0 && <ChosenKeys scale={scale} dragging={dragging} />}
      </div>
      <FilmFacts>
        <Preview controller={controller} />
      </FilmFacts>
    </section>
  );
}

function PlayFilm() {
  const playing = useDesk((s) => s.playing);
  const scene = useKeptScene();
  const film = filmPictures(scene);
  const go = (to: number) => {
    useDesk.setState({ playing: false });
    goToFilmTime(to);
  };
  return (
    <div className="flex shrink-0 items-center" role="toolbar" aria-label="Playing the film">
      <button type="button" className="mark" aria-label="Beginning of the film" onClick={() => go(film.from)}>
        <ChevronFirst size={18} />
      </button>
      <button
        type="button"
        className="mx-0.5 inline-flex size-9 items-center justify-center rounded-full bg-accent text-on-accent hover:brightness-110"
        onClick={() => useDesk.setState({ playing: !playing && film.count > 1 })}
        aria-label={playing ? 'Pause' : 'Play the film'}
      >
        {playing ? (
          <Pause size={16} fill="currentColor" />
        ) : (
          <Play size={16} fill="currentColor" className="ml-0.5" />
        )}
      </button>
      <button
        type="button"
        className="mark"
        aria-label="End of the film"
        onClick={() => go(film.at(film.count - 1))}
      >
        <ChevronLast size={18} />
      </button>
    </div>
  );
}

/** How much of the film was drawn and kept, so that it plays at its own speed; the rest is drawn when that is wanted. */
function Preview({ controller }: { controller: DeskController }) {
  const { kept, making } = useDesk((s) => s.preview);
  const film = filmPictures(useKeptScene());
  if (film.count < 2 || (kept >= film.count && !making))
    return kept > 1 ? <span className="shrink-0 text-xs text-soft">plays as it was drawn</span> : null;
  const stop = () => useDesk.setState((s) => ({ preview: { ...s.preview, making: false } }));
  return (
    <button
      type="button"
      className="word shrink-0 text-xs"
      title={
        making
          ? 'Stop; what was drawn is kept'
          : 'Draw every picture of the film for the screen, and keep it: then it plays at its own speed'
      }
      onClick={making ? stop : () => void controller.makePreview()}
    >
      {making
        ? `drawing ${kept} of ${film.count}, stop`
        : kept > 0
          ? `${kept} of ${film.count} drawn ahead`
          : 'draw ahead'}
    </button>
  );
}

/** Whether changes become keys. */
function Keeping() {
  const keeping = useDesk((s) => s.keeping);
  return (
    <div
      className="shrink-0"
      title="While this is on, everything that is changed gets a key at the time that is looked at. What moves already always does."
    >
      <Tick label="Keep as a key" checked={keeping} onChange={(on) => useDesk.setState({ keeping: on })} />
    </div>
  );
}
