import { roundTicks } from '#core/colour/ticks.ts';
import { fieldUnit, quantityOf } from '#core/language/phrase.ts';
import { type LevelKind, type Levels, levelValues, MOST_BANDS, MOST_LEVELS } from '#core/model/levels.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { roundTo } from '../round-to.ts';
import { useScaleNumbers } from '../scale/shown-unit.ts';
import type { ControlProps } from './control-props.ts';
import { SlidingNumber } from './NumberControls.tsx';
import { Row } from './VectorControls.tsx';

const kinds: { kind: LevelKind | null; label: string; of: ('values' | 'bands')[] }[] = [
  { kind: null, label: 'none', of: ['bands'] },
  { kind: 'count', label: 'even', of: ['values', 'bands'] },
  { kind: 'every', label: 'every …', of: ['values', 'bands'] },
  { kind: 'log', label: 'by ratio', of: ['values', 'bands'] },
  { kind: 'share', label: 'equal shares', of: ['values', 'bands'] },
  { kind: 'list', label: 'chosen', of: ['values', 'bands'] },
  { kind: 'scale', label: 'as its colours', of: ['values'] },
];

const same = (v: number): number => v;

/** How levels are chosen: values of an isosurface or contour lines, or the bands of a colour scale. */
export function LevelsControl({ control, options, setting, scale, set }: ControlProps<'levels'>) {
  const { key, label, of } = control;
  const levels = options[key] as Levels | null;
  const q = of === 'values' ? quantityOf(options, setting) : undefined;
  const unit = of === 'values' ? fieldUnit(options, setting) : null;
  const ofScale = useScaleNumbers(scale);
  const unitOfNumbers = ofScale?.number ?? { ...asStored, unit };
  const range: [number, number] | null = q && q.high > q.low ? [q.low, q.high] : (ofScale?.range ?? null);
  const put = (next: Levels | null, sliding: string | null = null) => set({ [key]: next }, sliding);
  const turnTo = (kind: LevelKind | null): void => {
    if (kind !== (levels?.kind ?? null)) put(kind && fresh(kind, levels, of, range));
  };
  return (
    <div className="flex flex-col gap-2">
      <Row label={label}>
        <div className="flex flex-wrap gap-1">
          {kinds
            .filter((k) => k.of.includes(of))
            .map(({ kind, label: said }) => (
              <Pill key={said} on={kind === (levels?.kind ?? null)} onClick={() => turnTo(kind)}>
                {said}
              </Pill>
            ))}
        </div>
      </Row>
      {levels && 'count' in levels && (
        <SlidingNumber
          label="How many"
          slider={of === 'bands' ? 'Number of bands' : 'How many levels'}
          value={levels.count}
          unit={null}
          range={of === 'bands' ? [1, 40] : [1, 30]}
          whole
          onChange={(v, sliding) =>
            put(
              { ...levels, count: Math.min(of === 'bands' ? MOST_BANDS : MOST_LEVELS, Math.max(1, v)) },
              sliding ? `slide-${key}` : null,
            )
          }
        />
      )}
      {levels && of === 'values' && (levels.kind === 'count' || levels.kind === 'log') && range && (
        <>
          {(['low', 'high'] as const).map((end, i) => (
            <SlidingNumber
              key={end}
              label={end === 'low' ? 'Between' : 'and'}
              slider={end === 'low' ? 'Between, lower end' : 'Between, upper end'}
              value={levels[end] ?? range[i]}
              unit={unit}
              range={range}
              onChange={(v, sliding) =>
                put(
                  { ...levels, low: levels.low ?? range[0], high: levels.high ?? range[1], [end]: v },
                  sliding ? `slide-${end}` : null,
                )
              }
            />
          ))}
        </>
      )}
      {levels?.kind === 'every' && (
        <SlidingNumber
          label="Every"
          value={unitOfNumbers.shownStep(levels.step)}
          unit={unitOfNumbers.unit}
          range={null}
          onChange={(v) => v > 0 && put({ kind: 'every', step: unitOfNumbers.backStep(v) })}
        />
      )}
      {levels?.kind === 'list' && (
        <ListRow
          values={levels.values.map(unitOfNumbers.shown)}
          range={range && [unitOfNumbers.shown(range[0]), unitOfNumbers.shown(range[1])]}
          onChange={(values, sliding) =>
            put({ kind: 'list', values: values.map(unitOfNumbers.back) }, sliding ? `slide-${key}` : null)
          }
        />
      )}
    </div>
  );
}

const asStored = { shown: same, back: same, shownStep: same, backStep: same };

/** A step of 1, 2 or 5 times a power of ten, near one. */
const niceStep = (near: number): number => {
  const ticks = roundTicks(0, near > 0 ? 10 * near : 10, 10);
  return Number((ticks[1] - ticks[0]).toPrecision(6));
};

/** Levels of another kind, as near to those before as it can be. */
function fresh(
  kind: LevelKind,
  before: Levels | null,
  of: 'values' | 'bands',
  range: [number, number] | null,
): Levels {
  const usual = of === 'bands' ? 10 : 5;
  const count = before && 'count' in before ? before.count : usual;
  const [low, high] = range ?? [0, 1];
  const at = (share: number): number => roundTo(low + share * (high - low), high - low || 1);
  switch (kind) {
    case 'scale':
      return { kind };
    case 'share':
      return { kind, count };
    case 'every':
      return { kind, step: niceStep((high - low) / usual) };
    case 'list':
      return {
        kind,
        values:
          before && before.kind !== 'scale'
            ? levelValues(before, { low, high, shares: null, scale: [] }).map((v) =>
                roundTo(v, high - low || 1),
              )
            : [at(0.5)],
      };
    default:
      if (of === 'bands') return { kind, count, low: null, high: null };
      return {
        kind,
        count,
        low: kind === 'log' && at(0.1) <= 0 ? roundTo(high / 100, high) : at(0.1),
        high: at(0.9),
      };
  }
}

function ListRow({
  values,
  range,
  onChange,
}: {
  values: number[];
  range: [number, number] | null;
  onChange(values: number[], sliding: boolean): void;
}) {
  const text = values.map((v) => Number(v.toPrecision(7))).join('; ');
  return (
    <Row label="Values">
      <input
        key={text}
        aria-label="Values"
        className="field h-7 min-w-0 flex-1 tabular-nums"
        defaultValue={text}
        title="Several numbers with semicolons between them"
        onBlur={(e) => {
          const list = e.target.value
            .split(/[;\s]+/)
            .filter(Boolean)
            .map((t) => Number(t.replace(',', '.').replace('−', '-')));
          if (list.length > 0 && list.every(Number.isFinite)) {
            if (e.target.value !== text) onChange(list, false);
          } else e.target.value = text;
        }}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      />
      {values.length === 1 && range && (
        <input
          type="range"
          aria-label="Values, slider"
          className="min-w-0 flex-1"
          min={range[0]}
          max={range[1]}
          step={(range[1] - range[0]) / 400}
          value={values[0]}
          onChange={(e) => onChange([roundTo(Number(e.target.value), range[1] - range[0])], true)}
        />
      )}
    </Row>
  );
}
