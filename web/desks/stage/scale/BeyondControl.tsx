import type { Scale } from '#core/scene/document.ts';
import { type LevelLines, type ShownEnd, USUAL_MISSING } from '#core/scene/things/scale.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { NumberField } from '../Chooser.tsx';
import type { ControlProps } from '../controls/control-props.ts';
import { Row } from '../controls/VectorControls.tsx';
import { freshId, useSettled } from '../desk-store.ts';
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
export function ScaleOpacityControl({ control, options, set }: ControlProps<'scale opacity'>) {
  const curve = options[control.key] as Scale['opacity'];
  const put = (next: Scale['opacity'], key = freshId('opacity')): void => set({ [control.key]: next }, key);
  const at = (end: 0 | 1): number => curve?.[end === 0 ? 0 : curve.length - 1][1] ?? 1;
  return (
    <section aria-label={control.label} className="flex flex-col gap-1.5">
      <Tick
        label={control.label}
        checked={curve !== null}
        onChange={(on) =>
          put(
            on
              ? [
                  [0, 0.05],
                  [1, 1],
                ]
              : null,
          )
        }
      />
      {curve &&
        ([0, 1] as const).map((end) => (
          <div key={end} className="flex items-center gap-2">
            <span className="w-20 shrink-0 text-soft">{end === 0 ? 'Low end' : 'High end'}</span>
            <input
              type="range"
              aria-label={end === 0 ? 'Opacity of the low end' : 'Opacity of the high end'}
              className="min-w-0 flex-1"
              min={0}
              max={1}
              step={0.01}
              value={at(end)}
              onChange={(e) => {
                const next = curve.map((p) => [...p] as [number, number]);
                next[end === 0 ? 0 : next.length - 1][1] = Number(e.target.value);
                put(next, `slide-opacity-${end}`);
              }}
            />
            <span className="w-12 text-right whitespace-nowrap tabular-nums">
              {Math.round(100 * at(end))} %
            </span>
          </div>
        ))}
    </section>
  );
}
