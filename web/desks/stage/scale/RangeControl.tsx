import { type Spread, sharesBeyond } from '#core/colour/spread.ts';
import type { Scale } from '#core/scene/document.ts';
import { middleOfShown } from '#core/scene/settle-scale.ts';
import { USUAL_MIDDLE } from '#core/scene/things/scale.ts';
import { sayShare } from '#stage/words/legend-layout.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { NumberField } from '../Chooser.tsx';
import type { ControlProps } from '../controls/control-props.ts';
import { Row } from '../controls/VectorControls.tsx';
import { useRun, useSettled, useSpread } from '../desk-store.ts';
import { ExtremesTable } from './ExtremesTable.tsx';
import { useShownUnit } from './shown-unit.ts';

const ranges = [
  { kind: 'all-steps', label: 'all steps', title: 'The lowest and highest of all steps' },
  { kind: 'this-step', label: 'this step', title: 'The lowest and highest of the step on show' },
  { kind: 'shown', label: 'what is shown', title: 'The lowest and highest of what is to be seen' },
  { kind: 'middle', label: 'without extremes', title: 'So that few extreme values lie beyond' },
  { kind: 'fixed', label: 'fixed', title: 'From one value to another' },
] as const;

/** Where a colour scale begins and ends. */
export function RangeControl({ control, scale, set }: ControlProps<'range'>) {
  return scale ? <Range scale={scale} field={control.key} set={set} /> : null;
}

function Range({ scale, field, set }: { scale: Scale; field: string; set: ControlProps['set'] }) {
  const { low, high } = useSettled(scale);
  const spread = useSpread(scale);
  const number = useShownUnit(scale);
  const steps = useRun().steps.length;
  const put = (range: Scale['range']): void => set({ [field]: range });
  const fix = (a: number, b: number): void =>
    put({ kind: 'fixed', low: Math.min(a, b), high: Math.max(a, b) });
  const round = (v: number): number => number.back(Number(number.shown(v).toPrecision(5)));
  return (
    <section aria-label="Range" className="flex flex-col gap-2">
      <div className="flex flex-wrap gap-1">
        {ranges
          .filter(({ kind }) => steps > 1 || kind !== 'this-step')
          .map(({ kind, label, title }) => (
            <Pill
              key={kind}
              on={scale.range.kind === kind}
              title={title}
              onClick={() => {
                if (kind === 'fixed') fix(round(low), round(high));
                else put(kind === 'middle' ? { kind, share: USUAL_MIDDLE } : { kind });
              }}
            >
              {steps > 1 || kind !== 'all-steps' ? label : 'whole run'}
            </Pill>
          ))}
      </div>
      <div className="flex items-center gap-3">
        <NumberField
          label="from"
          value={number.shown(low)}
          onChange={(v) => {
            set({ symmetric: null, tidy: false });
            fix(number.back(v), high);
          }}
        />
        <NumberField
          label="to"
          value={number.shown(high)}
          onChange={(v) => {
            set({ symmetric: null, tidy: false });
            fix(low, number.back(v));
          }}
          unit={number.unit}
        />
      </div>
      {scale.range.kind === 'middle' && (
        <NumberField
          label="the middle"
          value={Number((100 * scale.range.share).toFixed(3))}
          unit="% of all values"
          onChange={(v) => put({ kind: 'middle', share: Math.min(1, Math.max(0.1, v / 100)) })}
        />
      )}
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1.5">
        <Tick label="to round numbers" checked={scale.tidy} onChange={(tidy) => set({ tidy })} />
        <Tick
          label="symmetric about"
          checked={scale.symmetric !== null}
          onChange={(on) =>
            set({ symmetric: on ? (low < 0 && high > 0 ? 0 : round((low + high) / 2)) : null })
          }
        />
        {scale.symmetric !== null && (
          <NumberField
            label=""
            value={number.shown(scale.symmetric)}
            unit={number.unit}
            onChange={(v) => set({ symmetric: number.back(v) })}
          />
        )}
      </div>
      <ExtremesTable scale={scale} spread={spread} />
      {spread && spread.weight > 0 && (
        <Beyond
          spread={spread}
          low={low}
          high={high}
          leave={() => {
            const [a, b] = middleOfShown(spread, USUAL_MIDDLE);
            if (b > a) fix(round(a), round(b));
          }}
        />
      )}
    </section>
  );
}

/** How much of what is shown lies beyond the range. */
function Beyond({ spread, low, high, leave }: { spread: Spread; low: number; high: number; leave(): void }) {
  const { below, above } = sharesBeyond(spread, low, high);
  const what =
    spread.by === 'area'
      ? 'of the area shown'
      : spread.by === 'length'
        ? 'of the length shown'
        : 'of the points shown';
  return (
    <p className="text-xs text-soft" data-testid="beyond">
      {below + above < 0.0005
        ? `All ${what.slice(3)} lies within. `
        : `Beyond: ${sayShare(below)} below and ${sayShare(above)} above, ${what}. `}
      <button type="button" className="text-accent hover:underline" onClick={leave}>
        Leave out 1 % at each end of what is shown
      </button>
    </p>
  );
}

const spacings = [
  { kind: 'linear', label: 'even' },
  { kind: 'log', label: 'logarithm' },
  { kind: 'symlog', label: 'logarithm through zero' },
] as const;

/** How values are spaced along a colour scale. */
export function SpacingControl({ control, scale, set }: ControlProps<'spacing'>) {
  return scale ? <SpacingOf scale={scale} field={control.key} set={set} /> : null;
}

function SpacingOf({ scale, field, set }: { scale: Scale; field: string; set: ControlProps['set'] }) {
  const settled = useSettled(scale);
  const number = useShownUnit(scale);
  const { spacing } = scale;
  const reach = Math.max(Math.abs(settled.low), Math.abs(settled.high));
  const noLog = spacing.kind === 'log' && settled.spacing.kind !== 'log';
  return (
    <section aria-label="Spacing" className="flex flex-col gap-1.5">
      <Row label="Spaced">
        <div className="flex flex-wrap gap-1">
          {spacings.map(({ kind, label }) => (
            <Pill
              key={kind}
              on={spacing.kind === kind}
              onClick={() =>
                set({
                  [field]:
                    kind === 'symlog'
                      ? { kind, linear: Number((reach / 100 || 1).toPrecision(1)) }
                      : { kind },
                })
              }
            >
              {label}
            </Pill>
          ))}
        </div>
      </Row>
      {spacing.kind === 'symlog' && (
        <NumberField
          label="nearly even within ±"
          value={number.shownStep(spacing.linear)}
          unit={number.unit}
          onChange={(v) => v > 0 && set({ [field]: { kind: 'symlog', linear: number.backStep(v) } })}
        />
      )}
      {spacing.kind === 'log' && (
        <p className="text-xs text-soft">
          {noLog
            ? 'No value is above zero, so none has a logarithm: the scale is even. Take the logarithm through zero.'
            : 'Zero and negative values have no logarithm; they are shown as missing.'}
        </p>
      )}
    </section>
  );
}
