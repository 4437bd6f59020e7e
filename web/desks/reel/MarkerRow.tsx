import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { Marker } from '#core/scene/document.ts';
import { captionSpans } from '#core/scene/reel/marker.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { Chooser, NumberField } from '#web/desks/stage/Chooser.tsx';
import { edit, useDesk, useKeptScene } from '#web/desks/stage/desk-store.ts';
import { Now } from './LaneRows.tsx';
import { followPress, SNAP, snapTimes } from './lane-drag.ts';
import { NAMES, placeOfTime, sayFilmTime, snapped, type TimeScale } from './time-scale.ts';

/** Chapters and captions along the time of the film: both their ends are dragged. */
export function MarkerRow({ scale }: { scale: TimeScale }) {
  const { markers: kept, reel } = useKeptScene();
  const [dragged, setDragged] = useState<Marker | null>(null);
  const markers = kept.map((m) => (m.id === dragged?.id ? dragged : m));
  const time = useDesk((s) => s.filmTime);
  const add = () =>
    edit({
      type: 'marker.add',
      marker: {
        id: freshId('marker'),
        at: time,
        name: `Chapter ${markers.length + 1}`,
        caption: '',
        until: null,
      },
    });
  return (
    <div className="flex h-7 border-b border-rule">
      <div
        className="flex shrink-0 items-center justify-between border-r border-rule pr-1 pl-4 text-xs text-soft"
        style={{ width: NAMES }}
      >
        Chapters and captions
        <button type="button" className="mark size-6" aria-label="Mark the time that is shown" onClick={add}>
          <Plus size={14} />
        </button>
      </div>
      <div className="relative min-w-0 flex-1 overflow-hidden">
        {captionSpans(markers, reel.seconds).map(({ marker, from, to }) => (
          <span
            key={marker.id}
            className="absolute inset-y-1.5 rounded-sm bg-accent-wash"
            style={{ left: placeOfTime(scale, from), width: (to - from) * scale.pace }}
          >
            <MarkerGrip
              label={`End of the caption of ${nameOf(marker)}`}
              at={to}
              moved={(at) => ({ ...marker, until: at >= reel.seconds ? null : Math.max(from, at) })}
              look="right-0 bg-accent/40"
              {...{ scale, setDragged }}
            />
          </span>
        ))}
        {markers.map((marker) => (
          <span
            key={marker.id}
            className="absolute inset-y-1 pl-1.5 text-xs leading-5 whitespace-nowrap"
            style={{ left: placeOfTime(scale, marker.at) }}
          >
            <MarkerGrip
              label={`Beginning of ${nameOf(marker)}`}
              at={marker.at}
              moved={(at) => movedTo(marker, Math.min(reel.seconds, at))}
              look="left-0 -translate-x-px bg-accent"
              {...{ scale, setDragged }}
            />
            <Chooser word={nameOf(marker)} label="Chapter and caption">
              <MarkerFields marker={marker} />
            </Chooser>
          </span>
        ))}
        <Now scale={scale} />
      </div>
    </div>
  );
}

const nameOf = ({ name, caption }: Marker): string => name || caption || 'marker';

/** A marker at another time; its caption stands as long as before. */
const movedTo = (marker: Marker, at: number): Marker => ({
  ...marker,
  at,
  until: marker.until === null ? null : at + marker.until - marker.at,
});

interface GripProps {
  label: string;
  at: number;
  /** The marker when the grip is at another time. */
  moved(at: number): Marker;
  look: string;
  scale: TimeScale;
  setDragged(marker: Marker | null): void;
}

/** One end of a marker: dragged, where it snaps as keys do, or moved by the arrow keys, picture by picture. */
function MarkerGrip({ label, at, moved, look, scale, setDragged }: GripProps) {
  const { rate } = useKeptScene().reel;
  const keep = ({ id, at, until }: Marker) => edit({ type: 'marker.change', id, change: { at, until } });
  const hold = (e: React.PointerEvent<HTMLElement>) => {
    if (e.button !== 0) return;
    e.stopPropagation();
    const times = snapTimes(scale).filter((time) => time !== at);
    let now: Marker | null = null;
    const move = (by: number) => {
      now = moved(Math.max(0, snapped(at + by / scale.pace, times, SNAP / scale.pace)));
      setDragged(now);
    };
    followPress(e, move, (u) => {
      setDragged(null);
      if (u && now) keep(now);
    });
  };
  return (
    <button
      type="button"
      aria-label={`${label}, at ${sayFilmTime(at)} s`}
      title="Drag it, or move it by the arrow keys"
      className={`absolute inset-y-0 w-1 cursor-ew-resize touch-none rounded-sm ${look}`}
      onPointerDown={hold}
      onKeyDown={(e) => {
        const by = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
        if (!by) return;
        e.preventDefault();
        keep(moved(Math.max(0, at + by / rate)));
      }}
    />
  );
}

function MarkerFields({ marker }: { marker: Marker }) {
  const { id, at, name, caption, until } = marker;
  const { seconds } = useKeptScene().reel;
  const change = (c: Partial<Omit<Marker, 'id'>>, key: string | null = null) =>
    edit({ type: 'marker.change', id, change: c }, key);
  return (
    <div className="flex flex-col gap-2">
      <label className="flex flex-col gap-1">
        <span className="head">Chapter</span>
        <input
          className="field"
          value={name}
          maxLength={200}
          onChange={(e) => change({ name: e.target.value }, `name ${id}`)}
        />
      </label>
      <label className="flex flex-col gap-1">
        <span className="head">Caption</span>
        <textarea
          className="field h-16 py-1"
          value={caption}
          maxLength={2000}
          onChange={(e) => change({ caption: e.target.value }, `caption ${id}`)}
        />
      </label>
      <NumberField
        label="From"
        unit="s"
        value={at}
        onChange={(v) => change({ at: Math.min(seconds, Math.max(0, v)) })}
      />
      <NumberField
        label="Until"
        unit="s"
        value={until ?? seconds}
        onChange={(v) => change({ until: v >= seconds ? null : Math.max(at, v) })}
      />
      <button type="button" className="quiet" onClick={() => edit({ type: 'marker.remove', id })}>
        Delete
      </button>
    </div>
  );
}
