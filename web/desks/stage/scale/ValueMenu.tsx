import { useEffect } from 'react';
import { textsInStyle } from '#core/colour/ticks.ts';
import type { Scale } from '#core/scene/document.ts';
import { withLevel, withoutLevel } from '#core/scene/scale-levels.ts';
import { useRoving } from '#web/desks/shared/roving.ts';
import { edit, useSettled } from '../desk-store.ts';
import { useShownUnit } from './shown-unit.ts';

interface Props {
  scale: Scale;
  /** As stored. */
  value: number;
  /** The level that was pointed at, counted from the lowest; null between levels. */
  level: number | null;
  onDone(): void;
}

/** What can be done with a value of a scale: a level there, an end of the range, or nothing shown beyond it. */
export function ValueActs({ scale, value, level, onDone }: Props) {
  const settled = useSettled(scale);
  const { range } = scale;
  const { low, high } = settled;
  const act = (label: string, change: Partial<Scale>) => (
    <button
      key={label}
      type="button"
      role="menuitem"
      className="block w-full rounded-md px-2 py-1 text-left hover:bg-sunk"
      onClick={() => {
        edit({ type: 'scale.change', id: scale.id, change });
        onDone();
      }}
    >
      {label}
    </button>
  );
  const fixed = (a: number, b: number): Partial<Scale> => ({
    range: { kind: 'fixed', low: Math.min(a, b), high: Math.max(a, b) },
    symmetric: null,
    tidy: false,
  });
  return (
    <>
      {level === null
        ? act('A level here', { bands: withLevel(settled, value), categories: null })
        : act('Remove this level', { bands: withoutLevel(settled, level) })}
      {value < high && act('Colours begin here', fixed(value, high))}
      {value > low && act('Colours end here', fixed(low, value))}
      {act('Hide what is above', { shownTo: value })}
      {act('Hide what is below', { shownFrom: value })}
      {(scale.shownFrom !== null || scale.shownTo !== null) &&
        act('Show everything', { shownFrom: null, shownTo: null })}
      {range.kind !== 'all-steps' && act('Colours over all steps', { range: { kind: 'all-steps' } })}
    </>
  );
}

/** A value in the unit and with the digits of its scale. */
export function useSaidValue(scale: Scale, value: number): string {
  const { unit, shown } = useShownUnit(scale);
  const { kind } = scale.numbers;
  const said =
    kind === 'as needed'
      ? String(Number(shown(value).toPrecision(5)))
      : textsInStyle([shown(value)], scale.numbers).texts[0];
  return unit ? `${said} ${unit}` : said;
}

/** The same as a menu beside the legend. */
export function ValueMenu({ x, y, ...props }: Props & { x: number; y: number }) {
  const menu = useRoving<HTMLDivElement>();
  const said = useSaidValue(props.scale, props.value);
  useEffect(() => {
    menu.current?.querySelector('button')?.focus();
    const leave = (e: KeyboardEvent): void => {
      if (e.key === 'Escape') props.onDone();
    };
    addEventListener('keydown', leave);
    return () => removeEventListener('keydown', leave);
  }, []);
  return (
    <div
      ref={menu}
      role="menu"
      aria-label={`Value ${said}`}
      data-handle
      className="card absolute z-20 w-48 p-1.5"
      style={{ left: x, top: y, transform: 'translateX(-100%)' }}
    >
      <p className="px-2 pt-1 pb-1.5 font-medium tabular-nums">{said}</p>
      <ValueActs {...props} />
    </div>
  );
}
