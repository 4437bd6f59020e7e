import { Plus, Trash2 } from 'lucide-react';
import { rgbToHex } from '#core/colour/cielab.ts';
import type { Category } from '#core/colour/compiled-scale.ts';
import { cssColour } from '#core/colour/compiled-scale.ts';
import type { NumberStyle } from '#core/colour/number-style.ts';
import { unitsToShow } from '#core/model/units.ts';
import type { Scale } from '#core/scene/document.ts';
import { MOST_CATEGORIES } from '#core/scene/things/scale.ts';
import { NumberField } from '../Chooser.tsx';
import type { ControlProps } from '../controls/control-props.ts';
import { Row } from '../controls/VectorControls.tsx';
import { useSettled } from '../desk-store.ts';
import { useShownUnit } from './shown-unit.ts';

const styles: { kind: NumberStyle['kind']; label: string }[] = [
  { kind: 'as needed', label: 'as many digits as needed' },
  { kind: 'decimals', label: 'decimals' },
  { kind: 'digits', label: 'significant digits' },
  { kind: 'powers', label: 'digits and powers of ten' },
];

/** Unit and digits of the numbers of a colour scale. */
export function UnitControl({ control, scale, set }: ControlProps<'unit'>) {
  return scale ? <UnitOf scale={scale} field={control.key} set={set} /> : null;
}

function UnitOf({ scale, field, set }: { scale: Scale; field: string; set: ControlProps['set'] }) {
  const { stored, unit } = useShownUnit(scale);
  const { numbers } = scale;
  const units = stored ? unitsToShow(stored) : [];
  return (
    <section aria-label="Numbers" className="flex flex-col gap-2">
      <Row label="Unit">
        {units.length > 1 ? (
          <select
            className="field h-7"
            aria-label="Unit of the numbers"
            value={unit ?? ''}
            onChange={(e) => set({ [field]: e.target.value === stored ? null : e.target.value })}
          >
            {units.map((u) => (
              <option key={u} value={u}>
                {u}
                {u === stored ? ' (as in the run)' : ''}
              </option>
            ))}
          </select>
        ) : (
          <span>{stored ?? 'The run states none; it is set on the page of the run.'}</span>
        )}
      </Row>
      <Row label="Numbers">
        <select
          className="field h-7 min-w-0 flex-1"
          aria-label="How numbers are written"
          value={numbers.kind}
          onChange={(e) => {
            const kind = e.target.value as NumberStyle['kind'];
            set({
              numbers:
                kind === 'as needed'
                  ? { kind }
                  : { kind, count: 'count' in numbers ? numbers.count : kind === 'decimals' ? 1 : 3 },
            });
          }}
        >
          {styles.map(({ kind, label }) => (
            <option key={kind} value={kind}>
              {label}
            </option>
          ))}
        </select>
        {'count' in numbers && (
          <NumberField
            label=""
            value={numbers.count}
            onChange={(v) =>
              set({ numbers: { ...numbers, count: Math.min(12, Math.max(0, Math.round(v))) } })
            }
          />
        )}
      </Row>
    </section>
  );
}

/** Names for values that stand for something: materials, parts, kinds of structure. */
export function CategoriesControl({ control, scale, set }: ControlProps<'categories'>) {
  return scale ? <CategoriesOf scale={scale} field={control.key} set={set} /> : null;
}

function CategoriesOf({ scale, field, set }: { scale: Scale; field: string; set: ControlProps['set'] }) {
  const settled = useSettled(scale);
  const all = scale.categories;
  const put = (next: Category[] | null, key: string | null = null): void =>
    set({ [field]: next && next.length > 0 ? next : null }, key);
  const change = (i: number, c: Partial<Category>, key: string | null = null): void =>
    put(
      all!.map((one, k) => (k === i ? { ...one, ...c } : one)),
      key,
    );
  if (!all)
    return (
      <button
        type="button"
        className="self-start text-accent hover:underline"
        onClick={() => put(wholeNumbers(settled.low, settled.high))}
      >
        Give values names
      </button>
    );
  return (
    <section aria-label="Names" className="flex flex-col gap-1.5">
      <p className="head">Names of values</p>
      <div className="flex max-h-52 flex-col gap-1 overflow-y-auto">
        {all.map((c, i) => (
          <div key={i} className="flex items-center gap-1.5">
            <input
              type="color"
              aria-label={`Colour of ${c.name}`}
              className="h-6 w-7"
              value={c.colour ?? rgbToHex(settled.colour(c.value))}
              style={{ background: cssColour(settled.colour(c.value)) }}
              onChange={(e) => change(i, { colour: e.target.value }, `category-${i}`)}
            />
            <NumberField
              label={<span className="sr-only">{`Value of ${c.name}`}</span>}
              value={c.value}
              onChange={(value) => change(i, { value })}
            />
            <input
              className="field h-7 min-w-0 flex-1"
              aria-label={`Name of the value ${c.value}`}
              value={c.name}
              onChange={(e) => change(i, { name: e.target.value.replaceAll('"', '”') }, `category-name-${i}`)}
            />
            <button
              type="button"
              className="mark size-6"
              aria-label={`Remove ${c.name}`}
              onClick={() => put(all.filter((_, k) => k !== i))}
            >
              <Trash2 size={13} />
            </button>
          </div>
        ))}
      </div>
      <div className="flex gap-4 text-sm">
        <button
          type="button"
          className="flex items-center gap-1 text-accent hover:underline"
          onClick={() => {
            const value = Math.max(...all.map((c) => c.value)) + 1;
            put([...all, { value, name: String(value), colour: null }]);
          }}
        >
          <Plus size={13} /> A value
        </button>
        <button type="button" className="text-accent hover:underline" onClick={() => put(null)}>
          No names
        </button>
      </div>
    </section>
  );
}

/** Each whole number of a range by its own name. */
function wholeNumbers(low: number, high: number): Category[] {
  const first = Math.ceil(low);
  const count = Math.min(MOST_CATEGORIES, Math.max(1, Math.floor(high) - first + 1));
  return Array.from({ length: count }, (_, i) => ({
    value: first + i,
    name: String(first + i),
    colour: null,
  }));
}
