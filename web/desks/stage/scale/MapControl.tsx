import { Download, Pencil, Upload } from 'lucide-react';
import { useRef, useState } from 'react';
import { CompiledScale } from '#core/colour/compiled-scale.ts';
import { mapFormats, readMaps } from '#core/colour/map-files/registry.ts';
import { type ColourMap, type MapGroup, mapGroups } from '#core/colour/maps/colour-map.ts';
import { nameOfMap, type OwnMap } from '#core/colour/maps/own-map.ts';
import { colourMaps, mapsFor } from '#core/colour/maps/registry.ts';
import { fileName } from '#core/language/file-name.ts';
import { parseQuantity } from '#core/model/quantity.ts';
import { fieldByKey } from '#core/model/run.ts';
import type { Scale } from '#core/scene/document.ts';
import { roleOfMap } from '#core/scene/map-for-quantity.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { saveFile } from '#web/desks/shared/save-file.ts';
import { Tick } from '#web/desks/shared/Tick.tsx';
import type { ControlProps } from '../controls/control-props.ts';
import { useRun, useScene, useSettled } from '../desk-store.ts';
import { MapDetails } from './MapDetails.tsx';
import { editable, MapEditor } from './MapEditor.tsx';
import { Ramp } from './Ramp.tsx';

const groupNames: Record<MapGroup, string> = {
  sequential: 'one way',
  diverging: 'two ways',
  cyclic: 'around',
  'multi-part': 'in parts',
  categorical: 'names',
  grey: 'greys',
};

/** The colours of a scale: chosen by what they are for, turned and cropped, made by hand, brought in and given out. */
export function MapControl({ scale, set }: ControlProps<'map'>) {
  return scale ? <MapOf scale={scale} set={set} /> : null;
}

function MapOf({ scale, set }: { scale: Scale; set: ControlProps['set'] }) {
  const run = useRun();
  const { scales } = useScene();
  const { field: key, component } = parseQuantity(scale.quantity);
  const field = fieldByKey(run, key);
  const role = field ? roleOfMap(field, component) : null;
  const known = typeof scale.map === 'string' ? colourMaps.find((m) => m.id === scale.map) : undefined;
  const [group, setGroup] = useState<MapGroup | 'suits'>(known?.group ?? 'sequential');
  const [pointed, setPointed] = useState<ColourMap | null>(null);
  const [editing, setEditing] = useState(false);
  const suiting = role ? mapsFor(role) : [];
  const list = group === 'suits' ? suiting : colourMaps.filter((m) => m.group === group);
  const own = scales.flatMap((s) => (typeof s.map === 'string' ? [] : [s.map]));
  const ownMaps = own.filter((m, i) => own.findIndex((n) => n.name === m.name) === i);
  const choose = (map: Scale['map']): void => set({ map });
  return (
    <section aria-label="Colours" className="flex flex-col gap-2.5">
      <div className="flex flex-wrap gap-1">
        {suiting.length > 0 && (
          <Pill on={group === 'suits'} onClick={() => setGroup('suits')}>
            for {role}
          </Pill>
        )}
        {mapGroups.map((g) => (
          <Pill key={g} on={group === g} onClick={() => setGroup(g)}>
            {groupNames[g]}
          </Pill>
        ))}
      </div>
      <div
        className="grid max-h-[15.5rem] grid-cols-3 gap-1 overflow-y-auto"
        onPointerLeave={() => setPointed(null)}
      >
        {ownMaps.map((map) => (
          <MapButton
            key={`own ${map.name}`}
            scale={scale}
            map={map}
            name={map.name}
            note="made for this scene"
            onPoint={() => setPointed(null)}
            onChoose={() => choose(map)}
          />
        ))}
        {list.map((map) => (
          <MapButton
            key={map.id}
            scale={scale}
            map={map.id}
            name={map.name}
            note={map.note}
            onPoint={() => setPointed(map)}
            onChoose={() => choose(map.id)}
          />
        ))}
      </div>
      <MapDetails map={pointed?.id ?? scale.map} />
      <MapUse scale={scale} set={set} />
      {editing && typeof scale.map !== 'string' ? (
        <MapEditor
          map={scale.map}
          onChange={(map, key) => set({ map }, key)}
          onDone={() => setEditing(false)}
        />
      ) : (
        <MapFiles
          scale={scale}
          onRead={(map) => choose(map)}
          onEdit={() => {
            if (typeof scale.map === 'string') choose(editable(scale.map));
            setEditing(true);
          }}
        />
      )}
    </section>
  );
}

interface MapButtonProps {
  scale: Scale;
  map: Scale['map'];
  name: string;
  note: string;
  onPoint(): void;
  onChoose(): void;
}

/** A map as the scale would show it. */
function MapButton({ scale, map, name, note, onPoint, onChoose }: MapButtonProps) {
  const settled = useSettled(scale);
  const chosen = JSON.stringify(scale.map) === JSON.stringify(map);
  return (
    <button
      type="button"
      title={note}
      aria-pressed={chosen}
      onClick={onChoose}
      onPointerEnter={onPoint}
      onFocus={onPoint}
      className={`min-w-0 rounded-md border p-1 text-left text-xs ${chosen ? 'border-accent bg-accent-wash font-semibold' : 'border-transparent hover:bg-sunk'}`}
    >
      <Ramp scale={CompiledScale.of({ ...settled.colours, map })} className="mb-0.5 block h-4 rounded-sm" />
      <span className="block truncate">{name}</span>
    </button>
  );
}

/** Which part of a map is used, and from which side. */
function MapUse({ scale, set }: { scale: Scale; set: ControlProps['set'] }) {
  const known = typeof scale.map === 'string' ? colourMaps.find((m) => m.id === scale.map) : undefined;
  const slider = (label: string, value: number, put: (v: number) => void) => (
    <label className="flex min-w-0 flex-1 items-center gap-1.5 text-xs text-soft">
      {label}
      <input
        type="range"
        aria-label={label}
        className="min-w-0 flex-1"
        min={0}
        max={1}
        step={0.01}
        value={value}
        onChange={(e) => put(Number(e.target.value))}
      />
    </label>
  );
  const [from, to] = scale.crop;
  return (
    <div className="flex flex-col gap-1.5">
      <Tick label="Reverse" checked={scale.reversed} onChange={(reversed) => set({ reversed })} />
      <div className="flex gap-3">
        {slider('used from', from, (v) => set({ crop: [Math.min(v, to - 0.01), to] }, 'crop'))}
        {slider('to', to, (v) => set({ crop: [from, Math.max(v, from + 0.01)] }, 'crop'))}
        {(known?.group === 'cyclic' || scale.rotate !== 0) &&
          slider('turned', scale.rotate, (rotate) => set({ rotate }, 'rotate'))}
      </div>
    </div>
  );
}

interface MapFilesProps {
  scale: Scale;
  onRead(map: OwnMap): void;
  onEdit(): void;
}

/** Colours from a file, into a file, and by hand. */
function MapFiles({ scale, onRead, onEdit }: MapFilesProps) {
  const input = useRef<HTMLInputElement>(null);
  const [found, setFound] = useState<OwnMap[]>([]);
  const [trouble, setTrouble] = useState<string | null>(null);
  const read = async (file: File): Promise<void> => {
    try {
      const maps = readMaps(await file.text(), file.name);
      setTrouble(null);
      setFound(maps.length > 1 ? maps : []);
      onRead(maps[0]);
    } catch (error) {
      setTrouble(`${file.name}: ${(error as Error).message}`);
    }
  };
  return (
    <div className="flex flex-col gap-1.5 text-sm">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <button
          type="button"
          className="flex items-center gap-1 text-accent hover:underline"
          onClick={onEdit}
        >
          <Pencil size={13} /> Edit these colours
        </button>
        <button
          type="button"
          className="flex items-center gap-1 text-accent hover:underline"
          onClick={() => input.current?.click()}
        >
          <Upload size={13} /> From a file
        </button>
        <input
          ref={input}
          type="file"
          className="sr-only"
          aria-label="A file of colours"
          accept={mapFormats.map((f) => f.ending).join(',')}
          onChange={(e) => {
            const [file] = e.target.files ?? [];
            if (file) void read(file);
            e.target.value = '';
          }}
        />
        <span className="flex items-center gap-1 text-soft">
          <Download size={13} /> Save as
          {mapFormats.map((format) => (
            <button
              key={format.id}
              type="button"
              className="text-accent hover:underline"
              aria-label={`Save the colours as ${format.name}`}
              onClick={() => {
                const map = typeof scale.map === 'string' ? editable(scale.map, 64) : scale.map;
                saveFile(
                  new Blob([format.write(map)], { type: format.type }),
                  `${fileName(nameOfMap(map))}${format.ending}`,
                );
              }}
            >
              {format.ending}
            </button>
          ))}
        </span>
      </div>
      {found.length > 0 && (
        <label className="flex items-center gap-2 text-soft">
          {found.length} maps in it:
          <select
            className="field h-7 min-w-0 flex-1"
            aria-label="Which of the maps in the file"
            onChange={(e) => onRead(found[Number(e.target.value)])}
          >
            {found.map((m, i) => (
              <option key={i} value={i}>
                {m.name}
              </option>
            ))}
          </select>
        </label>
      )}
      {trouble && (
        <p role="alert" className="text-xs text-warn">
          {trouble}
        </p>
      )}
    </div>
  );
}
