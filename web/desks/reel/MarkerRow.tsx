import { Plus } from 'lucide-react';
import type { Marker } from '#core/scene/document.ts';
import { captionSpans } from '#core/scene/reel/marker.ts';
import { Chooser, NumberField } from '#web/desks/stage/Chooser.tsx';
import { edit, freshId, useDesk, useKeptScene } from '#web/desks/stage/desk-store.ts';
import { Now } from './LaneRows.tsx';
import { NAMES } from './ReelStrip.tsx';
import { placeOfTime, type TimeScale } from './time-scale.ts';

/** Chapters and captions along the time of the film. */
export function MarkerRow({ scale }: { scale: TimeScale }) {
  const { markers, reel } = useKeptScene();
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
          />
        ))}
        {markers.map((marker) => (
          <span
            key={marker.id}
            className="absolute top-1 -translate-x-px border-l-2 border-accent pl-1 text-xs leading-5 whitespace-nowrap"
            style={{ left: placeOfTime(scale, marker.at) }}
          >
            <Chooser word={marker.name || marker.caption || 'marker'} label="Chapter and caption">
              <MarkerFields marker={marker} />
            </Chooser>
          </span>
        ))}
        <Now scale={scale} />
      </div>
    </div>
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
