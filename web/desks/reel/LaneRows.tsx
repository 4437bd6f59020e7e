import { ChevronDown, ChevronRight, Power, Trash2, TriangleAlert } from 'lucide-react';
import { keysByTime, type LaneGroup } from '#core/motion/lane-groups.ts';
import { laneTroubles } from '#core/motion/scene-at.ts';
import { nameWithin, valueName } from '#core/motion/value-names.ts';
import type { Camera, Lane } from '#core/scene/document.ts';
import { sameAddress, waysOf } from '#core/scene/reel/lane.ts';
import type { KeyAt } from '#core/scene/reel/reel-edits.ts';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { Chooser } from '#web/desks/stage/Chooser.tsx';
import { edit, useDesk, useKeptScene, useRun } from '#web/desks/stage/desk-store.ts';
import { useLaneBox } from './lane-box.ts';
import { areChosen, draggedTo, type KeyDrag, type KeyDragging } from './lane-drag.ts';
import { laneRows } from './lane-rows.ts';
import { NAMES, placeOfTime, sayFilmTime, type TimeScale } from './time-scale.ts';

/** The lanes, each with its name and its keys on a thread. */
export function LaneRows({ scale, dragging }: { scale: TimeScale; dragging: KeyDragging }) {
  const scene = useKeptScene();
  const run = useRun();
  const { drag, hold } = dragging;
  const rows = laneRows(
    scene,
    useDesk((s) => s.foldedLanes),
  );
  const { box, press } = useLaneBox(scale, rows);
  const troubles = new Map(laneTroubles(scene, run).map((t) => [t.lane, t.says]));
  if (scene.lanes.length === 0)
    return (
      <p className="px-4 py-4 text-soft">
        Nothing moves yet. Add a motion in plain words, or turn on “Keep as a key”, go to a time and change
        something: the camera, a section, a colour, a light.
      </p>
    );
  return (
    // Pressed beside the keys it draws a box around some; by the keyboard they are chosen one by one.
    <ul aria-label="Lanes" className="relative select-none" onPointerDown={press}>
      {rows.map((row) =>
        row.kind === 'group' ? (
          <GroupRow key={row.group.key} group={row.group} isFolded={row.folded} {...{ scale, drag, hold }} />
        ) : (
          <li
            key={row.lane.id}
            className={`group flex h-7 border-b border-rule/50 ${row.lane.off ? 'opacity-50' : ''}`}
          >
            <LaneName
              lane={row.lane}
              name={valueName(scene, run, row.lane.of)}
              within={row.inset ? nameWithin(scene, run, row.lane.of) : null}
              trouble={troubles.get(row.lane.id) ?? null}
            />
            <div className="relative min-w-0 flex-1 overflow-hidden">
              <Thread lane={row.lane} scale={scale} drag={drag} />
              {row.lane.keys.map(({ at, value, ease }) => (
                <Bead
                  key={at}
                  keys={[{ lane: row.lane.id, at }]}
                  says={sayValue(value)}
                  held={ease.kind === 'hold'}
                  {...{ scale, drag, hold }}
                />
              ))}
              <Now scale={scale} />
            </div>
          </li>
        ),
      )}
      {box && (
        <span
          className="pointer-events-none absolute border border-accent bg-accent/10"
          style={{
            left: NAMES + placeOfTime(scale, box.from),
            width: (box.to - box.from) * scale.pace,
            top: box.above,
            height: box.below - box.above,
          }}
        />
      )}
    </ul>
  );
}

interface GroupProps extends Dragging {
  group: LaneGroup;
  isFolded: boolean;
}

/** Lanes of one thing: folded, its keys of one time are one that is dragged. */
function GroupRow({ group: { key, name, lanes }, isFolded, ...dragging }: GroupProps) {
  const toggle = () =>
    useDesk.setState(({ foldedLanes }) => ({
      foldedLanes: isFolded ? foldedLanes.filter((k) => k !== key) : [...foldedLanes, key],
    }));
  return (
    <li className="flex h-7 border-b border-rule/50">
      <button
        type="button"
        className="flex shrink-0 items-center gap-1 border-r border-rule bg-paper pl-1.5 text-xs font-medium"
        style={{ width: NAMES }}
        aria-expanded={!isFolded}
        aria-label={isFolded ? `Unfold the lanes of ${name}` : `Fold the lanes of ${name}`}
        onClick={toggle}
      >
        {isFolded ? <ChevronRight size={13} /> : <ChevronDown size={13} />}
        <span className="truncate">{name}</span>
        <span className="text-soft">{lanes.length} lanes</span>
      </button>
      <div className="relative min-w-0 flex-1 overflow-hidden">
        {isFolded &&
          keysByTime(lanes).map(({ at, keys }) => (
            <Bead
              key={at}
              keys={keys}
              says={keys.length === 1 ? '1 key' : `${keys.length} keys`}
              held={false}
              {...dragging}
            />
          ))}
        <Now scale={dragging.scale} />
      </div>
    </li>
  );
}

/** Where the film is shown, through all lanes. */
export function Now({ scale }: { scale: TimeScale }) {
  const time = useDesk((s) => s.filmTime);
  return (
    <span
      className="pointer-events-none absolute inset-y-0 w-px bg-accent/60"
      style={{ left: placeOfTime(scale, time) }}
    />
  );
}

interface NameProps {
  lane: Lane;
  name: string;
  trouble: string | null;
  /** Its name below that of what it belongs to, where it stands there. */
  within: string | null;
}

function LaneName({ lane, name, trouble, within }: NameProps) {
  const change = (c: Partial<Pick<Lane, 'off' | 'smooth' | 'steady'>>) =>
    edit({ type: 'lane.change', id: lane.id, change: c });
  const isCamera = sameAddress(lane.of, ['camera']);
  const ways = waysOf(lane);
  return (
    <div
      className={`flex shrink-0 items-center gap-1 border-r border-rule bg-paper pr-1 text-xs ${within === null ? 'pl-4' : 'pl-6'}`}
      style={{ width: NAMES }}
    >
      {isCamera ? (
        <Chooser word={within ?? name} label="How the camera goes">
          <div className="flex flex-col gap-2">
            <Tick
              label="In one curve through its keys"
              checked={ways.every((w) => w.smooth)}
              onChange={(smooth) => change({ smooth })}
            />
            <Tick
              label="At one speed all the way"
              checked={ways.every((w) => w.steady)}
              onChange={(steady) => change({ steady })}
            />
            <TargetApart lane={lane} />
          </div>
        </Chooser>
      ) : (
        <span className="truncate" title={name}>
          {within ?? name}
        </span>
      )}
      {trouble && (
        <span className="text-warn" title={trouble}>
          <TriangleAlert size={13} aria-label={trouble} />
        </span>
      )}
      <span className="ml-auto flex opacity-0 group-focus-within:opacity-100 group-hover:opacity-100">
        <button
          type="button"
          className="mark size-6"
          aria-pressed={!lane.off}
          aria-label={lane.off ? `Switch on ${name}` : `Switch off ${name}`}
          onClick={() => change({ off: !lane.off })}
        >
          <Power size={13} />
        </button>
        <button
          type="button"
          className="mark size-6"
          aria-label={`Delete the lane of ${name}`}
          onClick={() => edit({ type: 'lane.remove', id: lane.id })}
        >
          <Trash2 size={13} />
        </button>
      </span>
    </div>
  );
}

/** Whether what the camera looks at has keys of its own, which go before those of the camera. */
function TargetApart({ lane }: { lane: Lane }) {
  const of = ['camera', 'target'];
  const apart = useKeptScene().lanes.find((l) => sameAddress(l.of, of));
  const keys = () => lane.keys.map((key) => ({ ...key, value: (key.value as Camera).target }));
  return (
    <Tick
      label="What it looks at has keys of its own"
      checked={apart !== undefined}
      onChange={(on) => {
        if (on) edit({ type: 'reel.begin', beginning: { lanes: [{ of, keys: keys() }] } });
        else if (apart) edit({ type: 'lane.remove', id: apart.id });
      }}
    />
  );
}

/** What lies between the keys: a line where it goes on, dots where it is held. */
function Thread({ lane, scale, drag }: { lane: Lane; scale: TimeScale; drag: KeyDrag | null }) {
  const places = lane.keys
    .map(({ at, ease }) => ({
      place: placeOfTime(scale, drag ? draggedTo(drag, { lane: lane.id, at }) : at),
      ease,
    }))
    .sort((a, b) => a.place - b.place);
  return places
    .slice(1)
    .map(({ place }, i) => (
      <span
        key={i}
        className={`pointer-events-none absolute top-1/2 ${places[i].ease.kind === 'hold' ? 'border-t border-dotted border-soft' : 'h-0.5 -translate-y-1/2 bg-rule'}`}
        style={{ left: places[i].place, width: Math.max(0, place - places[i].place) }}
      />
    ));
}

interface Dragging extends Pick<KeyDragging, 'drag' | 'hold'> {
  scale: TimeScale;
}

interface BeadProps extends Dragging {
  /** All at one time. */
  keys: readonly KeyAt[];
  /** What they hold, in a few words. */
  says: string;
  /** Whether the value stays as it is until the next. */
  held: boolean;
}

/** Keys of one time: dragged with all that are chosen, moved by the arrows, deleted by Delete. */
function Bead({ keys: own, says, held, scale, drag, hold }: BeadProps) {
  const [key] = own;
  const { at } = key;
  const chosen = useDesk((s) => areChosen(s.chosenKeys, own));
  const { reel } = useKeptScene();
  const keys = () => {
    const all = useDesk.getState().chosenKeys;
    return areChosen(all, own) ? all : own;
  };
  return (
    <button
      type="button"
      aria-label={`Key at ${sayFilmTime(at)} s: ${says}`}
      aria-pressed={chosen}
      title={`${sayFilmTime(at)} s: ${says}`}
      className={`absolute top-1/2 size-3 -translate-x-1/2 -translate-y-1/2 touch-none border ${held ? 'rounded-[3px]' : 'rounded-full'} ${chosen ? 'border-ink bg-accent' : 'border-paper bg-soft hover:bg-accent'}`}
      style={{ left: placeOfTime(scale, drag ? draggedTo(drag, key) : at) }}
      onPointerDown={(e) => hold(e, own)}
      onFocus={(e) => e.currentTarget.matches(':focus-visible') && useDesk.setState({ chosenKeys: keys() })}
      onKeyDown={(e) => {
        const by = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
        if (by) {
          const moved = keys();
          edit({ type: 'keys.move', keys: moved, by: by / reel.rate });
          useDesk.setState({
            chosenKeys: moved.map((k) => ({ ...k, at: Math.max(0, k.at + by / reel.rate) })),
          });
        } else if (e.key === 'Delete' || e.key === 'Backspace') {
          edit({ type: 'keys.remove', keys: keys() });
          useDesk.setState({ chosenKeys: [] });
        } else return;
        e.preventDefault();
        e.stopPropagation();
      }}
    />
  );
}

/** A value in a few words. */
function sayValue(value: unknown): string {
  if (typeof value === 'number') return String(Number(value.toPrecision(5)));
  if (typeof value === 'string') return value;
  if (typeof value === 'boolean') return value ? 'on' : 'off';
  if (Array.isArray(value)) return value.map(sayValue).join(', ');
  if (value && typeof value === 'object' && 'name' in value) return String(value.name);
  return value === null ? 'none' : 'as it was kept';
}
