import { useState } from 'react';
import type { Scale } from '#core/scene/document.ts';
import { innerLevels, levelAt, withLevelMoved, withoutLevel } from '#core/scene/scale-levels.ts';
import type { WordsRect } from '#core/scene/snap-words.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { edit, useSettled } from '../desk-store.ts';
import { MENU_WIDTH } from '../PictureMenu.tsx';
import { useSaidValue, ValueMenu } from './ValueMenu.tsx';

interface Props {
  scale: Scale;
  /** Where its bar lies, in pixels of the page within the picture. */
  bar: WordsRect;
  width: number;
}

/** More levels than this have no handles of their own. */
const MOST_HANDLES = 40;

/** The bar of a legend, made sensitive: a click asks what to do at a value, levels are dragged along it. */
export function LegendBar({ scale, bar, width }: Props) {
  const settled = useSettled(scale);
  const [at, setAt] = useState<number | null>(null);
  const [menu, setMenu] = useState<{ value: number; level: number | null } | null>(null);
  const [drag, setDrag] = useState<{ level: number; key: string; moved: boolean } | null>(null);
  const { upright } = scale.legend;
  const levels = innerLevels(settled);
  const fractionOf = (e: React.PointerEvent): number => {
    const frame = e.currentTarget.closest('[data-testid="picture"]')!.getBoundingClientRect();
    const along = upright
      ? 1 - (e.clientY - frame.top - bar.y) / bar.height
      : (e.clientX - frame.left - bar.x) / bar.width;
    return Math.min(1, Math.max(0, along));
  };
  const placeOf = (fraction: number): { left: number; top: number } =>
    upright
      ? { left: bar.x, top: bar.y + (1 - fraction) * bar.height }
      : { left: bar.x + fraction * bar.width, top: bar.y };
  const change = (bands: Scale['bands'], key: string | null = null): void =>
    edit({ type: 'scale.change', id: scale.id, change: { bands } }, key);
  if (settled.categories) return null;
  return (
    <>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: what it does is in the choices of the scale as well */}
      <div
        data-handle="bar"
        data-testid="legend-bar"
        className="absolute cursor-crosshair"
        style={{ left: bar.x, top: bar.y, width: bar.width, height: bar.height }}
        onPointerMove={(e) => setAt(fractionOf(e))}
        onPointerLeave={() => setAt(null)}
        onPointerDown={(e) => {
          e.stopPropagation();
          if (e.button === 0) setMenu({ value: levelAt(settled, fractionOf(e)), level: null });
        }}
        onDoubleClick={(e) => e.stopPropagation()}
      />
      {levels.length <= MOST_HANDLES &&
        levels.map((value, i) => (
          <button
            key={i}
            type="button"
            data-handle="level"
            aria-label={`Level ${i + 1} of ${levels.length}: arrows move it, Delete removes it`}
            className={`absolute size-2.5 rounded-full border border-sheet bg-accent opacity-0 hover:opacity-100 focus-visible:opacity-100 ${at !== null || drag ? 'opacity-70' : ''} ${upright ? 'cursor-ns-resize' : 'cursor-ew-resize'}`}
            style={{
              left: placeOf(settled.fraction(value)).left - 5 + (upright ? bar.width / 2 : 0),
              top: placeOf(settled.fraction(value)).top - 5 + (upright ? 0 : bar.height / 2),
            }}
            onPointerDown={(e) => {
              e.stopPropagation();
              e.currentTarget.setPointerCapture(e.pointerId);
              setDrag({ level: i, key: freshId('level'), moved: false });
            }}
            onPointerMove={(e) => {
              if (drag?.level !== i) return;
              const to = levelAt(settled, fractionOf(e));
              if (to === value || levels.some((v, k) => k !== i && (k < i ? to <= v : to >= v))) return;
              change(withLevelMoved(settled, i, to), drag.key);
              setDrag({ ...drag, moved: true });
            }}
            onPointerUp={() => {
              if (drag && !drag.moved) setMenu({ value, level: i });
              setDrag(null);
            }}
            onDoubleClick={(e) => e.stopPropagation()}
            onKeyDown={(e) => {
              const by = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[e.key];
              if (by) {
                const to = levelAt(settled, settled.fraction(value) + by * 0.01);
                change(withLevelMoved(settled, i, to), `level-keys-${i}`);
              } else if (e.key === 'Delete') change(withoutLevel(settled, i));
              else return;
              e.preventDefault();
              e.stopPropagation();
            }}
          />
        ))}
      {at !== null && !menu && !drag && (
        <ValueNote scale={scale} value={levelAt(settled, at)} {...placeOf(at)} />
      )}
      {menu && (
        <ValueMenu
          scale={scale}
          {...menu}
          x={Math.min(width - 8, Math.max(MENU_WIDTH + 8, bar.x - 8))}
          y={placeOf(settled.fraction(menu.value)).top - 28}
          onDone={() => setMenu(null)}
        />
      )}
    </>
  );
}

/** The value under the cursor, beside the bar. */
function ValueNote({ scale, value, left, top }: { scale: Scale; value: number; left: number; top: number }) {
  const said = useSaidValue(scale, value);
  const { upright } = scale.legend;
  return (
    <div
      className="card pointer-events-none absolute z-10 px-2 py-0.5 text-xs whitespace-nowrap tabular-nums"
      style={
        upright
          ? { left: left - 6, top, transform: 'translate(-100%, -50%)' }
          : { left, top: top - 30, transform: 'translateX(-50%)' }
      }
    >
      {said}
    </div>
  );
}
