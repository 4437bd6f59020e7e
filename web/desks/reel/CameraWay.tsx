import { Route } from 'lucide-react';
import { useMemo, useRef } from 'react';
import { boundsDiagonal, joinBounds } from '#core/model/mesh.ts';
import { runBounds } from '#core/model/run.ts';
import { add, type Vector } from '#core/model/vectors.ts';
import { alsoAt, hasWay, type KeyedPlace, placesOfWay, wayOfCamera } from '#core/motion/camera-way.ts';
import { camerasOfFilm } from '#core/motion/scene-at.ts';
import { pictureAxes, projectPoint } from '#core/scene/camera.ts';
import { movedInPicture } from '#core/scene/camera-moves.ts';
import type { Camera } from '#core/scene/document.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { edit, goToFilmTime, useDesk, useKeptScene, useRun } from '#web/desks/stage/desk-store.ts';
import { lookFrom } from '#web/desks/stage/look-from.ts';
import { roundTo } from '#web/desks/stage/round-to.ts';
import { sayFilmTime } from './time-scale.ts';

/** Keys nearer to each other than this share of the model are at one place: those of a turntable have seven digits. */
const NEAR = 1e-5;
/** How far what the camera sees is drawn, as a share of the model. */
const REACH = 0.07;

interface Size {
  width: number;
  height: number;
}

/** Shows the way of the camera from outside, or the film through its lens again. */
export function WayButton() {
  const scene = useKeptScene();
  const run = useRun();
  const outside = useDesk((s) => s.outside);
  const moves = hasWay(scene);
  if (!moves && !outside) return null;
  const toggle = () => {
    const desk = useDesk.getState();
    if (desk.outside || !moves) return useDesk.setState({ outside: null });
    const places = wayOfCamera(scene, run).flatMap(({ position, target }) => [position, target]);
    const shown = places.reduce((all, [x, y, z]) => joinBounds(all, [x, x, y, y, z, z]), desk.shown);
    useDesk.setState({ outside: straightened(lookFrom('oblique', { ...desk, shown })) });
  };
  return (
    <button
      type="button"
      className={`quiet h-8 shrink-0 ${outside ? 'border-accent bg-accent-wash text-accent' : ''}`}
      aria-pressed={outside !== null}
      aria-label="Way of the camera"
      title="See the way of the camera from outside, and drag its keys"
      onClick={toggle}
    >
      <Route size={15} /> <span className="@max-4xl:hidden">Way of the camera</span>
    </button>
  );
}

/** What is looked from outside with is a plain lens, whatever the film has. */
const straightened = (camera: Camera): Camera => ({ ...camera, roll: 0, shiftAcross: 0, shiftRise: 0 });

/** The way of the camera over the picture, seen from outside: its curve, its keys to be dragged, and where it is now. */
export function CameraWay({ width, height }: Size) {
  const outside = useDesk((s) => s.outside);
  const isReel = useDesk((s) => s.desk === 'reel');
  return isReel && outside ? <Way outside={outside} width={width} height={height} /> : null;
}

function Way({ outside, width, height }: Size & { outside: Camera }) {
  const scene = useKeptScene();
  const run = useRun();
  const time = useDesk((s) => s.filmTime);
  const cameras = useMemo(() => wayOfCamera(scene, run), [scene, run]);
  if (cameras.length === 0) return null;
  const [now] = camerasOfFilm(scene, run, [time]);
  const aspect = width / height;
  const seen = (place: Vector) => {
    const { x, y, depth } = projectPoint(outside, place, aspect);
    return { x: x * width, y: y * height, there: depth > 0 || outside.projection === 'parallel', depth };
  };
  const line = (places: readonly Vector[]): string => {
    let drawn = '';
    let on = false;
    for (const place of places) {
      const { x, y, there } = seen(place);
      if (there) drawn += `${on ? 'L' : 'M'}${x.toFixed(1)} ${y.toFixed(1)}`;
      on = there;
    }
    return drawn;
  };
  const keyed = placesOfWay(scene);
  const reach = boundsDiagonal(runBounds(run));
  return (
    <div className="pointer-events-none absolute inset-0 overflow-hidden" data-testid="way-of-the-camera">
      <svg width={width} height={height} aria-hidden="true" className="absolute inset-0">
        <g fill="none" strokeLinejoin="round">
          <path d={line(cameras.map((c) => c.target))} className="stroke-sheet/80" strokeWidth="3.5" />
          <path
            d={line(cameras.map((c) => c.target))}
            className="stroke-ink"
            strokeWidth="1.3"
            strokeDasharray="4 4"
          />
          <path d={line(cameras.map((c) => c.position))} className="stroke-sheet/80" strokeWidth="5" />
          <path d={line(cameras.map((c) => c.position))} className="stroke-accent" strokeWidth="2.2" />
          <path d={line(lensOf(now, aspect, REACH * reach))} className="stroke-ink" strokeWidth="1.6" />
        </g>
      </svg>
      {keyed.map((key) => (
        <KeyGrip
          alsoThere={alsoAt(key, keyed, NEAR * reach)}
          key={`${key.lane} ${key.part} ${key.at}`}
          of={key}
          outside={outside}
          width={width}
          height={height}
        />
      ))}
    </div>
  );
}

/** What the camera sees, as a pyramid with its tip at the eye, in one stroke. */
function lensOf(camera: Camera, aspect: number, reach: number): Vector[] {
  const { middle, right, up, back } = pictureAxes({ ...camera, projection: 'perspective' }, aspect);
  const longest = Math.hypot(...[0, 1, 2].map((k) => middle[k] - back[k] + right[k] + up[k]));
  const corner = (across: number, rise: number): Vector =>
    [0, 1, 2].map(
      (k) =>
        camera.position[k] + ((middle[k] - back[k] + across * right[k] + rise * up[k]) * reach) / longest,
    ) as Vector;
  const [a, b, c, d] = [corner(-1, 1), corner(1, 1), corner(1, -1), corner(-1, -1)];
  const eye = camera.position;
  return [eye, a, b, c, d, a, eye, b, eye, c, eye, d];
}

interface GripProps extends Size {
  of: KeyedPlace;
  /** Others of its lane at the same place: a way that ends where it began goes on doing so. */
  alsoThere: readonly KeyedPlace[];
  outside: Camera;
}

/** A key of the way: dragged in the plane of the picture; a click goes to its time. */
function KeyGrip({ of, alsoThere, outside, width, height }: GripProps) {
  const isNow = useDesk((s) => s.filmTime === of.at);
  const reach = boundsDiagonal(runBounds(useRun()));
  const drag = useRef<{ key: string; x: number; y: number; place: Vector; depth: number } | null>(null);
  const { x, y, depth } = projectPoint(outside, of.place, width / height);
  if (depth <= 0 && outside.projection === 'perspective') return null;
  const isEye = of.part === 'position';
  const says = isEye ? 'Where the camera stands' : 'What the camera looks at';
  const move = (event: React.PointerEvent) => {
    const begin = drag.current;
    if (!begin) return;
    const by = movedInPicture(
      outside,
      begin.depth,
      (event.clientX - begin.x) / height,
      (begin.y - event.clientY) / height,
    );
    const place = add(begin.place, by).map((v) => roundTo(v, reach)) as Vector;
    for (const { at, of: address, with: moved } of [of, ...alsoThere])
      edit({ type: 'keys.set', at, values: [{ of: address, value: moved(place) }] }, begin.key);
  };
  return (
    <button
      type="button"
      data-handle="way"
      aria-label={`${says} at ${sayFilmTime(of.at)} s`}
      title={`${says} at ${sayFilmTime(of.at)} s: drag it`}
      className={`pointer-events-auto absolute -translate-1/2 cursor-grab touch-none border-2 border-sheet shadow-md active:cursor-grabbing ${isEye ? 'size-4 rounded-full bg-accent' : 'size-3 rotate-45 bg-ink'} ${isNow ? 'ring-3 ring-accent/40' : ''}`}
      style={{ left: x * width, top: y * height }}
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        drag.current = { key: freshId('way'), x: e.clientX, y: e.clientY, place: of.place, depth };
        goToFilmTime(of.at);
      }}
      onPointerMove={move}
      onPointerUp={() => {
        drag.current = null;
      }}
    />
  );
}
