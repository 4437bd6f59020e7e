import { Plus, Trash2 } from 'lucide-react';
import { useRef, useState } from 'react';
import { rgbToHex } from '#core/colour/cielab.ts';
import { cssColour, mapColour } from '#core/colour/compiled-scale.ts';
import { coloursOfMap, isStepped, nameOfMap, type OwnMap } from '#core/colour/maps/own-map.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { NumberField } from '../Chooser.tsx';
import { Row } from '../controls/VectorControls.tsx';
import { ColourField } from './BeyondControl.tsx';

/** A map of this version as one that can be edited: so many of its colours as stops. */
export function editable(id: string, stops = 9): OwnMap {
  const colours = coloursOfMap(id);
  const stepped = isStepped(id);
  const count = stepped ? colours.length : stops;
  return {
    name: `${nameOfMap(id)}, own`,
    space: stepped ? 'none' : 'lab',
    stops: Array.from({ length: count }, (_, i) => ({
      at: count === 1 ? 0 : i / (count - 1),
      colour: rgbToHex(stepped ? colours[i] : mapColour({ map: id, reversed: false }, i / (count - 1))),
    })),
  };
}

const spaces: { space: OwnMap['space']; label: string; title: string }[] = [
  { space: 'oklab', label: 'for the eye', title: 'Mixed in OKLab: even hue and lightness' },
  { space: 'lab', label: 'CIE L*a*b*', title: 'Mixed in CIE L*a*b*' },
  { space: 'screen', label: 'on screen', title: 'Straight in red, green and blue' },
  { space: 'none', label: 'not mixed', title: 'Each colour on a stretch of its own' },
];

interface Props {
  map: OwnMap;
  onChange(map: OwnMap, key: string | null): void;
  onDone(): void;
}

/** Colours by hand: stops on a strip, dragged, recoloured, added by a click and removed. */
export function MapEditor({ map, onChange, onDone }: Props) {
  const [chosen, setChosen] = useState(0);
  const strip = useRef<HTMLDivElement>(null);
  const drag = useRef<string | null>(null);
  const stops = map.stops;
  const current = stops[Math.min(chosen, stops.length - 1)];
  const change = (next: OwnMap['stops'], key: string | null = null): void =>
    onChange({ ...map, stops: next }, key);
  const placeOf = (clientX: number): number => {
    const r = strip.current!.getBoundingClientRect();
    return Math.round(1000 * Math.min(1, Math.max(0, (clientX - r.left) / r.width))) / 1000;
  };
  const move = (index: number, at: number, key: string): void => {
    const low = index > 0 ? stops[index - 1].at : 0;
    const high = index + 1 < stops.length ? stops[index + 1].at : 1;
    change(
      stops.map((s, i) => (i === index ? { ...s, at: Math.min(high, Math.max(low, at)) } : s)),
      key,
    );
  };
  const add = (at: number): void => {
    const index = stops.findIndex((s) => s.at > at);
    const to = index < 0 ? stops.length : index;
    const colour = rgbToHex(mapColour({ map, reversed: false }, at));
    change([...stops.slice(0, to), { at, colour }, ...stops.slice(to)], freshId('stop'));
    setChosen(to);
  };
  const background = Array.from({ length: 33 }, (_, i) =>
    cssColour(mapColour({ map, reversed: false }, i / 32)),
  ).join(', ');
  return (
    <section aria-label="Own colours" className="flex flex-col gap-2 rounded-md border border-rule p-2">
      <input
        className="field h-7"
        aria-label="Name of the colours"
        value={map.name}
        onChange={(e) => e.target.value && onChange({ ...map, name: e.target.value }, 'map-name')}
      />
      <div
        ref={strip}
        className="relative h-9 cursor-copy touch-none rounded-sm"
        style={{ background: `linear-gradient(to right, ${background})` }}
        title="Click to add a colour"
        onPointerDown={(e) => {
          if (e.target === e.currentTarget) add(placeOf(e.clientX));
        }}
      >
        {stops.map((stop, i) => (
          <button
            key={i}
            type="button"
            aria-label={`Colour ${i + 1} of ${stops.length}, at ${Math.round(100 * stop.at)} %`}
            aria-pressed={i === chosen}
            className={`absolute -bottom-1 size-3.5 -translate-x-1/2 cursor-ew-resize rounded-full border-2 ${i === chosen ? 'border-accent' : 'border-sheet'} shadow`}
            style={{ left: `${100 * stop.at}%`, background: stop.colour }}
            onPointerDown={(e) => {
              setChosen(i);
              drag.current = freshId('stop');
              e.currentTarget.setPointerCapture(e.pointerId);
            }}
            onPointerMove={(e) => drag.current && move(i, placeOf(e.clientX), drag.current)}
            onPointerUp={() => {
              drag.current = null;
            }}
            onKeyDown={(e) => {
              const by = { ArrowLeft: -0.01, ArrowRight: 0.01 }[e.key];
              if (by) move(i, stop.at + by, `stop-keys-${i}`);
              if (e.key === 'Delete' && stops.length > 2) change(stops.filter((_, k) => k !== i));
            }}
          />
        ))}
      </div>
      <div className="flex items-center gap-2.5">
        <ColourField
          label="Colour of the stop"
          value={current.colour}
          onChange={(colour) =>
            change(
              stops.map((s, i) => (i === chosen ? { ...s, colour } : s)),
              'stop-colour',
            )
          }
        />
        <NumberField
          label="at"
          value={Number((100 * current.at).toFixed(1))}
          unit="%"
          onChange={(v) => move(chosen, v / 100, freshId('stop'))}
        />
        <button
          type="button"
          className="mark size-7"
          aria-label="Add a colour behind this one"
          onClick={() => add((current.at + (stops[chosen + 1]?.at ?? 1)) / 2)}
        >
          <Plus size={14} />
        </button>
        <button
          type="button"
          className="mark size-7"
          aria-label="Remove this colour"
          disabled={stops.length <= 2}
          onClick={() => {
            change(stops.filter((_, i) => i !== chosen));
            setChosen(Math.max(0, chosen - 1));
          }}
        >
          <Trash2 size={14} />
        </button>
        <button type="button" className="ml-auto text-sm text-accent hover:underline" onClick={onDone}>
          Done
        </button>
      </div>
      <Row label="Mixed">
        <div className="flex flex-wrap gap-1">
          {spaces.map(({ space, label, title }) => (
            <Pill
              key={space}
              on={map.space === space}
              title={title}
              onClick={() => onChange({ ...map, space }, null)}
            >
              {label}
            </Pill>
          ))}
        </div>
      </Row>
    </section>
  );
}
