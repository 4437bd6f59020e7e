import { useEffect } from 'react';
import { type FinishValues, finishGroups, textureKinds } from '#core/light/finish.ts';
import { finishes } from '#core/light/finishes/registry.ts';
import { type FinishOf, nameOfFinish, type OwnFinish, ownLike, valuesOf } from '#core/light/own-finish.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { SlidingNumber } from '../controls/NumberControls.tsx';
import { useScene } from '../desk-store.ts';
import { keepFinish, loadFinishes, removeStyle, useKeptStyles } from '../looks/kept-styles.ts';
import { useTryOut } from '../try-out.ts';
import { FinishBall } from './FinishBall.tsx';
import { FINISH_DRAGGED } from './finish-drop.ts';

interface Props {
  finish: FinishOf;
  /** What it is called that there is none. */
  none: string;
  /** @param key changes in a row with the same key are one step of undo */
  onChange(finish: FinishOf, key?: string | null): void;
}

/** Finishes to choose from: those that ship, those that were made in this scene, and none; and what the chosen one is made of. */
export function FinishChoices({ finish: now, none, onChange }: Props) {
  const own = useOwnFinishes();
  return (
    <div className="flex min-w-0 flex-col gap-2">
      <div className="flex items-baseline gap-2">
        <Pill on={now === null} onClick={() => onChange(null)}>
          {none}
        </Pill>
        <span className="text-xs text-soft">Click, or drag one onto a body</span>
      </div>
      {now !== null && <Details finish={now} onChange={onChange} />}
      {own.length > 0 && <Group name="own" all={own} now={now} onChoose={onChange} />}
      {finishGroups.map((group) => (
        <Group
          key={group}
          name={group}
          all={finishes.filter((f) => f.group === group).map((f) => f.id)}
          now={now}
          onChoose={onChange}
        />
      ))}
    </div>
  );
}

/** Own finishes: those that something in the scene wears, and those kept for every scene. */
function useOwnFinishes(): OwnFinish[] {
  const { layers, parts } = useScene();
  const { finishes: kept } = useKeptStyles();
  useEffect(() => void loadFinishes(), []);
  const worn = [...layers, ...Object.values(parts)].flatMap(({ finish }) =>
    finish !== null && typeof finish === 'object' ? [finish] : [],
  );
  const all = [...kept.map((k) => k.document), ...worn];
  return [...new Map(all.map((f) => [f.name, f])).values()];
}

interface GroupProps {
  name: string;
  all: readonly Exclude<FinishOf, null>[];
  now: FinishOf;
  onChoose(finish: FinishOf): void;
}

function Group({ name, all, now, onChoose }: GroupProps) {
  return (
    <fieldset className="mb-1.5">
      <legend className="head px-1">{name}</legend>
      <div className="grid grid-cols-[repeat(5,1fr)] gap-1">
        {all.map((finish) => {
          const said = nameOfFinish(finish);
          const chosen = now !== null && nameOfFinish(now) === said;
          return (
            <FinishChoice key={said} finish={finish} chosen={chosen} onChoose={() => onChoose(finish)} />
          );
        })}
      </div>
    </fieldset>
  );
}

interface ChoiceProps {
  finish: Exclude<FinishOf, null>;
  chosen: boolean;
  onChoose(): void;
}

/** A finish, which is seen on the stage while it is pointed at. */
function FinishChoice({ finish, chosen, onChoose }: ChoiceProps) {
  const trial = useTryOut(chosen ? null : onChoose);
  const said = nameOfFinish(finish);
  return (
    <button
      type="button"
      draggable
      aria-pressed={chosen}
      title={`${said} (drag it onto a body)`}
      {...trial}
      onDragStart={(e) => e.dataTransfer.setData(FINISH_DRAGGED, JSON.stringify(finish))}
      onClick={onChoose}
      className={`flex flex-col items-center rounded-md p-0.5 text-center text-[11px] leading-tight hover:bg-sunk ${chosen ? 'bg-accent-wash font-medium outline outline-accent' : ''}`}
    >
      <FinishBall finish={finish} />
      {said}
    </button>
  );
}

const sliders: [keyof FinishValues, string, [number, number]][] = [
  ['roughness', 'Roughness', [0, 1]],
  ['metal', 'Metal', [0, 1]],
  ['coat', 'Varnish', [0, 1]],
  ['coatRoughness', 'Its roughness', [0, 1]],
  ['sheen', 'Sheen', [0, 1]],
  ['clear', 'Clearness', [0, 1]],
  ['index', 'Refraction', [1, 2.5]],
  ['glow', 'Glow', [0, 5]],
  ['grain', 'Grain', [0.05, 10]],
  ['relief', 'Relief', [0, 1]],
  ['contrast', 'Contrast', [0, 1]],
  ['uneven', 'Unevenness', [0, 1]],
];
const ofPattern = new Set<keyof FinishValues>(['grain', 'relief', 'contrast', 'uneven']);

/** What a finish is made of; changing any of it makes it one's own. */
function Details({
  finish,
  onChange,
}: {
  finish: Exclude<FinishOf, null>;
  onChange(finish: OwnFinish, key?: string): void;
}) {
  const values = valuesOf(finish);
  if (!values) return null;
  const name = typeof finish === 'string' ? `own ${values.name}` : finish.name;
  const change = (c: Partial<OwnFinish>, key?: string): void =>
    onChange({ ...ownLike(values, name), ...c }, key);
  return (
    <details>
      <summary className="cursor-pointer text-xs text-soft">What it is made of</summary>
      <div className="mt-1.5 flex flex-col gap-1.5">
        {typeof finish === 'object' && (
          <label className="flex items-center gap-2">
            <span className="w-20 text-soft">Name</span>
            <input
              className="field min-w-0 flex-1"
              defaultValue={finish.name}
              maxLength={100}
              onBlur={(e) => e.target.value.trim() && change({ name: e.target.value.trim() })}
            />
          </label>
        )}
        {typeof finish === 'object' && <Keeping finish={finish} />}
        <div className="flex flex-wrap items-center gap-2">
          <span className="w-20 text-soft">Colour</span>
          <Pill on={values.colour === null} onClick={() => change({ colour: null })}>
            that of the line
          </Pill>
          <input
            type="color"
            aria-label="Colour of the finish"
            className="h-6 w-8"
            value={values.colour ?? '#d8d2c8'}
            onChange={(e) => change({ colour: e.target.value }, 'finish-colour')}
          />
        </div>
        <label className="flex items-center gap-2">
          <span className="w-20 text-soft">Pattern</span>
          <select
            className="field h-7 min-w-0 flex-1"
            value={values.texture}
            onChange={(e) => change({ texture: e.target.value as OwnFinish['texture'] })}
          >
            {textureKinds.map((kind) => (
              <option key={kind}>{kind}</option>
            ))}
          </select>
          <input
            type="color"
            aria-label="Second colour of the pattern"
            className="h-6 w-8"
            value={values.colour2}
            onChange={(e) => change({ colour2: e.target.value }, 'finish-colour2')}
          />
        </label>
        {sliders
          .filter(([key]) => values.texture !== 'none' || !ofPattern.has(key))
          .map(([key, label, range]) => (
            <SlidingNumber
              key={key}
              label={label}
              value={values[key] as number}
              unit={null}
              range={range}
              onChange={(v, sliding) =>
                change(
                  { [key]: Math.min(range[1], Math.max(range[0], v)) },
                  sliding ? `finish-${key}` : undefined,
                )
              }
            />
          ))}
      </div>
    </details>
  );
}

/** Keeps a finish of one's own for every scene, or takes it from there. */
function Keeping({ finish }: { finish: OwnFinish }) {
  const kept = useKeptStyles().finishes.find((k) => k.name === finish.name);
  const keys = Object.keys(finish) as (keyof OwnFinish)[];
  const same = kept !== undefined && keys.every((key) => kept.document[key] === finish[key]);
  return (
    <div className="flex flex-wrap items-center gap-2">
      <button type="button" className="quiet h-7" disabled={same} onClick={() => void keepFinish(finish)}>
        {same ? 'Kept for every scene' : kept ? 'Keep it as it is now' : 'Keep for every scene'}
      </button>
      {kept && (
        <button type="button" className="quiet h-7" onClick={() => void removeStyle('finish', kept)}>
          Do not keep it
        </button>
      )}
    </div>
  );
}
