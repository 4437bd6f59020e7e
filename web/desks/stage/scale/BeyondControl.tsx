import { cssColour } from '#core/colour/compiled-scale.ts';
import { weightBelow } from '#core/colour/spread.ts';
import type { Scale } from '#core/scene/document.ts';
import { type LevelLines, type ShownEnd, USUAL_MISSING } from '#core/scene/things/scale.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { NumberField } from '../Chooser.tsx';
import type { ControlProps } from '../controls/control-props.ts';
import { CurveBox } from '../controls/OpacityCurve.tsx';
import { Row } from '../controls/VectorControls.tsx';
import { useSettled, useSpread } from '../desk-store.ts';
import { useShownUnit } from './shown-unit.ts';

const BELOW = '#2b3a67';
const ABOVE = '#7a1f5c';

/** What lies beyond the range of a colour scale, what is shown at all, and what has no value. */
export function BeyondControl({ scale, set }: ControlProps<'beyond'>) {
  if (!scale) return null;
  return (
    <section aria-label="Below and above" className="flex flex-col gap-2.5">
      <Side scale={scale} colour="above" end="shownTo" label="Above" usual={ABOVE} set={set} />
      <Side scale={scale} colour="below" end="shownFrom" label="Below" usual={BELOW} set={set} />
      <Row label="No value">
        <div className="flex items-center gap-1">
          <Pill on={scale.missing !== 'hidden'} onClick={() => set({ missing: USUAL_MISSING })}>
            a colour
          </Pill>
          <Pill on={scale.missing === 'hidden'} onClick={() => set({ missing: 'hidden' })}>
            hidden
          </Pill>
          {scale.missing !== 'hidden' && (
            <ColourField
              label="Colour of what has no value"
              value={scale.missing}
              onChange={(missing) => set({ missing }, 'missing')}
            />
          )}
        </div>
      </Row>
    </section>
  );
}

interface SideProps {
  scale: Scale;
  colour: 'below' | 'above';
  end: 'shownFrom' | 'shownTo';
  label: string;
  usual: string;
  set: ControlProps['set'];
}

/** One side of the range: coloured as its end, in a colour of its own, or not shown; and from where not shown. */
function Side({ scale, colour, end, label, usual, set }: SideProps) {
  const settled = useSettled(scale);
  const number = useShownUnit(scale);
  const shown: ShownEnd = scale[end];
  const edge = colour === 'below' ? settled.low : settled.high;
  return (
    <fieldset className="flex flex-col gap-1.5" aria-label={`${label} the range`}>
      <Row label={label}>
        <div className="flex flex-wrap items-center gap-1">
          <Pill
            on={scale[colour] === null && shown === null}
            onClick={() => set({ [colour]: null, [end]: null })}
          >
            as the end
          </Pill>
          <Pill
            on={scale[colour] !== null && shown === null}
            onClick={() => set({ [colour]: usual, [end]: null })}
          >
            a colour
          </Pill>
          <Pill on={shown === 'range'} onClick={() => set({ [end]: 'range' })}>
            hidden
          </Pill>
          <Pill
            on={typeof shown === 'number'}
            title="Hidden from a value on, whatever the range of the colours"
            onClick={() => set({ [end]: edge })}
          >
            hidden {colour} …
          </Pill>
        </div>
      </Row>
      {(typeof shown === 'number' || (scale[colour] !== null && shown === null)) && (
        <div className="flex items-center gap-2 pl-[5.5rem]">
          {typeof shown === 'number' && (
            <NumberField
              label={<span className="sr-only">{`Hidden ${colour}`}</span>}
              value={number.shown(shown)}
              unit={number.unit}
              onChange={(v) => set({ [end]: number.back(v) })}
            />
          )}
          {scale[colour] !== null && shown === null && (
            <ColourField
              label={`Colour ${colour} the range`}
              value={scale[colour]}
              onChange={(v) => set({ [colour]: v }, colour)}
            />
          )}
        </div>
      )}
    </fieldset>
  );
}

export function ColourField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange(value: string): void;
}) {
  return (
    <input
      type="color"
      aria-label={label}
      className="h-6 w-8"
      value={value}
      onChange={(e) => onChange(e.target.value)}
    />
  );
}

/** Lines where the levels of a scale lie. */
export function LevelLinesControl({ control, options, set }: ControlProps<'level lines'>) {
  const lines = options[control.key] as LevelLines;
  const change = (c: Partial<LevelLines>, key: string | null = null): void =>
    set({ [control.key]: { ...lines, ...c } }, key);
  return (
    <div className="flex items-center gap-3">
      <Tick label={control.label} checked={lines.shown} onChange={(shown) => change({ shown })} />
      {lines.shown && (
        <>
          <ColourField
            label="Colour of the lines"
            value={lines.colour}
            onChange={(colour) => change({ colour }, 'lines')}
          />
          <input
            type="range"
            aria-label="Width of the lines"
            className="w-20"
            min={0.5}
            max={5}
            step={0.25}
            value={lines.width}
            onChange={(e) => change({ width: Number(e.target.value) }, 'lines')}
          />
        </>
      )}
    </div>
  );
}

/** How opaque a scale is along itself. */
export function ScaleOpacityControl({ control, scale, set }: ControlProps<'scale opacity'>) {
  return scale ? <OpacityOf scale={scale} label={control.label} field={control.key} set={set} /> : null;
}

const BINS = 64;

function OpacityOf({
  scale,
  label,
  field,
  set,
}: {
  scale: Scale;
  label: string;
  field: string;
  set: ControlProps['set'];
}) {
  const settled = useSettled(scale);
  const spread = useSpread(scale);
  const curve = scale.opacity;
  const below = (i: number): number => (spread ? weightBelow(spread, settled.value(i / BINS)) : 0);
  const heights = spread ? Array.from({ length: BINS }, (_, i) => below(i + 1) - below(i)) : [];
  return (
    <section aria-label={label} className="flex flex-col gap-1.5">
      <Tick
        label={label}
        checked={curve !== null}
        onChange={(on) =>
          set({
            [field]: on
              ? [
                  [0, 0.05],
                  [1, 1],
                ]
              : null,
          })
        }
      />
      {curve && (
        <CurveBox
          label={`${label}, above how much of what is shown has which value`}
          curve={curve}
          heights={heights}
          fill={(at) => cssColour(settled.colour(settled.value(at)))}
          onChange={(next, key) => set({ [field]: next }, key)}
        />
      )}
    </section>
  );
}
