import { Crosshair, X } from 'lucide-react';
import type { Vector } from '#core/model/vectors.ts';
import { movingRange } from '#core/ops/kernels/planes.ts';
import { useDesk } from '../desk-store.ts';
import type { ControlProps } from './control-props.ts';
import { PlaneControl } from './PlaneControl.tsx';
import { AxisButtons, DirectionTriple, Row, Triple } from './VectorControls.tsx';

export function PlaneOfOptions({ control, options, setting, set }: ControlProps<'plane'>) {
  return (
    <PlaneControl
      normal={options[control.key] as Vector}
      offset={options[control.offset] as number}
      keys={[control.key, control.offset]}
      range={movingRange(setting.bounds, options[control.key] as Vector, control, options)}
      locked={options.locked === true}
      setting={setting}
      set={set}
    />
  );
}

export function DirectionControl({ control, options, set }: ControlProps<'direction'>) {
  const value = options[control.key] as Vector;
  const turn = (v: Vector): void => set({ [control.key]: v });
  return (
    <Row label={control.label}>
      <AxisButtons normal={value} onTurn={turn} />
      <DirectionTriple value={value} label={control.label} onChange={turn} />
    </Row>
  );
}

/** Lets one click at places one after the other; `onPlace` gets each, and says whether another is wanted. */
function pointAtPlaces(
  says: (nth: number) => string,
  onPlace: (place: Vector, nth: number) => boolean,
): void {
  let nth = 0;
  const begin = (): void =>
    useDesk.setState({
      pointing: {
        says: says(nth),
        onPick: ({ place }) => {
          if (!onPlace(place as Vector, nth)) return true;
          nth++;
          begin();
          return false;
        },
      },
    });
  begin();
}

function PointButton({ at, onClick }: { at: string; onClick: () => void }) {
  return (
    <button
      type="button"
      className="mark size-7"
      title="Point at it on the picture"
      aria-label={`Point at ${at}`}
      onClick={onClick}
    >
      <Crosshair size={15} />
    </button>
  );
}

/** A place by its numbers, or by pointing at it, and where another belongs to it at that too. */
export function PlaceControl({ control, options, set }: ControlProps<'place'>) {
  const { key, label, next } = control;
  const keys = next ? [key, next.key] : [key];
  const names = [label.toLowerCase(), ...(next ? [next.label.toLowerCase()] : [])];
  const point = (): void =>
    pointAtPlaces(
      (nth) => (next ? `Click where it goes ${names[nth]}.` : 'Click a place on the picture.'),
      (place, nth) => {
        set({ [keys[nth]]: place });
        return nth + 1 < keys.length;
      },
    );
  return (
    <Row label={label}>
      <Triple value={options[key] as Vector} label={label} onChange={(v) => set({ [key]: v })} />
      <PointButton at={names.join(' and ')} onClick={point} />
    </Row>
  );
}

/** Places of the model, each by its numbers or by pointing, or all of them one after the other. */
export function PlacesControl({ control, options, set }: ControlProps<'places'>) {
  const { key, names: given } = control;
  const places = options[key] as Vector[];
  const names = given ?? places.map((_, i) => `place ${i + 1}`);
  const pointFrom = (first: number, last: number): void => {
    let now = places;
    pointAtPlaces(
      (nth) => `Click ${names[first + nth]} on the picture.`,
      (place, nth) => {
        now = now.with(first + nth, place);
        set({ [key]: now });
        return first + nth < last;
      },
    );
  };
  const pointMore = (): void => {
    let now = places;
    pointAtPlaces(
      () => 'Click places on the picture; Escape ends.',
      (place) => {
        now = [...now, place];
        set({ [key]: now });
        return true;
      },
    );
  };
  return (
    <div className="flex flex-col gap-1.5">
      {names.slice(0, SHOWN_PLACES).map((name, i) => (
        <Row key={name} label={name}>
          <Triple value={places[i]} label={name} onChange={(v) => set({ [key]: places.with(i, v) })} />
          <PointButton at={name} onClick={() => pointFrom(i, i)} />
          {!given && places.length > 1 && (
            <button
              type="button"
              className="mark size-7"
              aria-label={`Remove ${name}`}
              onClick={() => set({ [key]: places.toSpliced(i, 1) })}
            >
              <X size={15} />
            </button>
          )}
        </Row>
      ))}
      {names.length > SHOWN_PLACES && (
        <p className="text-soft">and {names.length - SHOWN_PLACES} more, as the sentence has them.</p>
      )}
      {given ? (
        <button type="button" className="quiet h-7 self-start" onClick={() => pointFrom(0, names.length - 1)}>
          Point at all {names.length}
        </button>
      ) : (
        <button type="button" className="quiet h-7 self-start" onClick={pointMore}>
          Point at more places
        </button>
      )}
    </div>
  );
}

/** A longer list is edited as a sentence. */
const SHOWN_PLACES = 12;

/** One of the parts of the run, or of the part sets. */
export function PartControl({ control, options, setting, set }: ControlProps<'part'>) {
  const { key, label, of } = control;
  const names = of === 'sets' ? setting.sets : setting.parts;
  const now = String(options[key]);
  return (
    <Row label={label}>
      <select
        aria-label={label}
        className="field h-7 min-w-0 flex-1"
        value={now}
        onChange={(e) => set({ [key]: e.target.value })}
      >
        {!names.includes(now) && <option value={now}>{now === '' ? 'choose one' : now}</option>}
        {names.map((name) => (
          <option key={name}>{name}</option>
        ))}
      </select>
    </Row>
  );
}
