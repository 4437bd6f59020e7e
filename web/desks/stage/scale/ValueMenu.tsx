import { textsInStyle } from '#core/colour/ticks.ts';
import type { Scale } from '#core/scene/document.ts';
import { withLevel, withoutLevel } from '#core/scene/scale-levels.ts';
import { edit, useSettled } from '../desk-store.ts';
import { MENU_WIDTH, MenuLine, PictureMenu } from '../PictureMenu.tsx';
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
    <MenuLine
      key={label}
      label={label}
      onClick={() => {
        edit({ type: 'scale.change', id: scale.id, change });
        onDone();
      }}
    />
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

/** The same as a menu beside the legend, which ends at `x`. */
export function ValueMenu({ x, y, ...props }: Props & { x: number; y: number }) {
  const said = useSaidValue(props.scale, props.value);
  return (
    <PictureMenu label={`Value ${said}`} title={said} left={x - MENU_WIDTH} top={y} onClose={props.onDone}>
      <ValueActs {...props} />
    </PictureMenu>
  );
}
