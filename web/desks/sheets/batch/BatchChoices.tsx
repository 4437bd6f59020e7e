import { Trash2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import type { BatchSettings, ScalesWish } from '#core/batch/batch-settings.ts';
import { readStepsWish, sayStepsWish } from '#core/batch/batch-steps.ts';
import { whyNotRead } from '#core/language/sentence-reader.ts';
import { shippedLooks } from '#core/scene/looks/registry.ts';
import { ask } from '#engine/server-requests.ts';
import { filmWriters } from '#stage/films/registry.ts';
import { pictureWriters } from '#stage/pictures/registry.ts';
import { SizeNumber, sizePresets } from '#web/desks/give-out/SizeFields.tsx';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { Tick } from '#web/desks/shared/Tick.tsx';
import type { KeptStyle } from '#web/server/styles.ts';

interface Props<T> {
  value: T;
  onChange(value: T): void;
}

const usualSteps = ['as kept', 'the last', 'all', 'every 5th'];

/** Which steps of every run, in words. */
export function StepsField({ value, onChange }: Props<string>) {
  const [text, setText] = useState(value);
  const read = readStepsWish(text);
  const take = (to: string): void => {
    setText(to);
    if (!('at' in readStepsWish(to))) onChange(to);
  };
  return (
    <div className="flex flex-col gap-2">
      <div className="flex flex-wrap gap-1">
        {usualSteps.map((one) => (
          <Pill key={one} on={text === one} onClick={() => take(one)}>
            {one}
          </Pill>
        ))}
      </div>
      <input
        aria-label="Steps in words"
        aria-invalid={'at' in read}
        className="field w-full"
        value={text}
        onChange={(e) => take(e.target.value)}
      />
      {'at' in read ? (
        <p role="alert" className="text-sm text-warn">
          {whyNotRead(text, read)}
        </p>
      ) : (
        <p className="text-sm text-soft">
          {sayStepsWish(read)}; or “1, 5, 9”, “3 to 20, every 2nd”, “nearest to 10, 20 s”
        </p>
      )}
    </div>
  );
}

const sameSize = (a: { width: number; height: number }, b: { width: number; height: number }): boolean =>
  a.width === b.width && a.height === b.height;

/** Sizes in pixels: each picture is drawn in all of them. */
export function SizesField({ value, onChange }: Props<BatchSettings['sizes']>) {
  const set = (i: number, change: Partial<BatchSettings['sizes'][number]>): void => {
    const within = (v: number): number => Math.max(16, Math.min(16_384, Math.round(v) || 16));
    const next = { ...value[i], ...change };
    onChange(value.with(i, { width: within(next.width), height: within(next.height) }));
  };
  return (
    <div className="flex flex-col gap-2">
      <div className="flex flex-wrap gap-1">
        {sizePresets.map(({ name, width, height }) => {
          const at = value.findIndex((s) => sameSize(s, { width, height }));
          return (
            <Pill
              key={name}
              on={at >= 0}
              title={`${width} × ${height}`}
              onClick={() => onChange(at >= 0 ? value.toSpliced(at, 1) : [...value, { width, height }])}
            >
              {name}
            </Pill>
          );
        })}
      </div>
      {value.map(({ width, height }, i) => (
        <div key={`${width} ${height}`} className="flex items-center gap-2">
          <SizeNumber label="Width in pixels" value={width} onChange={(v) => set(i, { width: v })} />
          <span className="text-soft">×</span>
          <SizeNumber label="Height in pixels" value={height} onChange={(v) => set(i, { height: v })} />
          <button
            type="button"
            className="mark"
            aria-label={`Leave out ${width} × ${height}`}
            onClick={() => onChange(value.toSpliced(i, 1))}
          >
            <Trash2 size={15} />
          </button>
        </div>
      ))}
    </div>
  );
}

/** Formats of pictures and of films: a drawing is written in all of its kind. */
export const FormatsField = ({ value, onChange }: Props<Pick<BatchSettings, 'formats' | 'films'>>) => (
  <div className="flex flex-col gap-3">
    <FormatTicks
      legend="Pictures"
      writers={pictureWriters}
      value={value.formats}
      onChange={(formats) => onChange({ ...value, formats })}
    />
    <FormatTicks
      legend="Films of shots in which something moves"
      writers={filmWriters}
      value={value.films}
      onChange={(films) => onChange({ ...value, films })}
    />
  </div>
);

interface FormatTicksProps extends Props<string[]> {
  legend: string;
  writers: readonly { id: string; name: string; purpose: string }[];
}

const FormatTicks = ({ legend, writers, value, onChange }: FormatTicksProps) => (
  <fieldset className="flex flex-col gap-1">
    <legend className="head mb-1">{legend}</legend>
    {writers.map(({ id, name, purpose }) => (
      <div key={id} className="flex items-center gap-2">
        <span className="shrink-0">
          <Tick
            label={name}
            checked={value.includes(id)}
            onChange={(on) => onChange(on ? [...value, id] : value.filter((f) => f !== id))}
          />
        </span>
        <span className="min-w-0 truncate text-sm text-soft">{purpose}</span>
      </div>
    ))}
  </fieldset>
);

/** Looks: each picture is drawn in all of them. */
export function LooksField({ value, onChange }: Props<(string | null)[]>) {
  const [kept, setKept] = useState<string[]>([]);
  useEffect(() => {
    // Those that ship can be chosen all the same.
    ask<KeptStyle[]>('/api/styles/look').then(
      (looks) => setKept(looks.map((l) => l.name)),
      () => undefined,
    );
  }, []);
  const names = [null, ...shippedLooks.map((l) => l.name), ...kept];
  return (
    <div className="flex flex-col gap-1">
      {names.map((name) => (
        <Tick
          key={name ?? ''}
          label={name ?? 'the look of the shot'}
          checked={value.includes(name)}
          onChange={(on) => onChange(on ? [...value, name] : value.filter((n) => n !== name))}
        />
      ))}
    </div>
  );
}

export const scaleWords: Record<ScalesWish, { name: string; says: string }> = {
  shared: { name: 'shared by all', says: 'from the lowest value of all these runs to the highest' },
  kept: { name: 'as in the shot', says: 'as they are in the run the shot was kept of' },
  each: { name: 'each run its own', says: 'as each run has its values: pictures do not compare' },
};

interface ScalesProps extends Props<Pick<BatchSettings, 'scales' | 'scaleOf'>> {
  quantities: readonly { quantity: string; name: string }[];
}

/** Where colour scales begin and end, of all and of single quantities. */
export function ScalesField({ value, onChange, quantities }: ScalesProps) {
  const words = Object.keys(scaleWords) as ScalesWish[];
  const of = (quantity: string): ScalesWish =>
    Object.hasOwn(value.scaleOf, quantity) ? value.scaleOf[quantity] : value.scales;
  return (
    <div className="flex flex-col gap-3">
      {words.map((wish) => (
        <div key={wish}>
          <Pill
            on={value.scales === wish && Object.keys(value.scaleOf).length === 0}
            onClick={() => onChange({ scales: wish, scaleOf: {} })}
          >
            {scaleWords[wish].name}
          </Pill>
          <p className="mt-0.5 text-sm text-soft">{scaleWords[wish].says}</p>
        </div>
      ))}
      {quantities.length > 1 &&
        quantities.map(({ quantity, name }) => (
          <fieldset key={quantity}>
            <legend className="head mb-1">{name}</legend>
            <div className="flex flex-wrap gap-1">
              {words.map((wish) => (
                <Pill
                  key={wish}
                  on={of(quantity) === wish}
                  onClick={() => onChange({ ...value, scaleOf: { ...value.scaleOf, [quantity]: wish } })}
                >
                  {scaleWords[wish].name}
                </Pill>
              ))}
            </div>
          </fieldset>
        ))}
    </div>
  );
}
