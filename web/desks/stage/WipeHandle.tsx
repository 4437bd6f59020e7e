import { SeparatorHorizontal, SeparatorVertical } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useRef, useState } from 'react';
import { sceneThing } from '#core/scene/things/registry.ts';
import { isWiped } from '#core/scene/things/wipe.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { edit, useScene } from './desk-store.ts';
import { ThingControls } from './SettingLines.tsx';

/** How far an arrow key moves the wipe, as a share of the picture. */
const NUDGE = 0.01;
/** From the middle of the handle to its rim, and a little more, in pixels: so far it stays within the picture. */
const REACH = 18;
/** A pointer that moves less than this, in pixels, has clicked. */
const STILL = 3;

/** The edge of the wipe: dragged over the picture, or clicked for all there is to it. */
export function WipeHandle({ width, height }: { width: number; height: number }) {
  const scene = useScene();
  const [open, setOpen] = useState(false);
  const drag = useRef<{ key: string; at: number; place: number; moved: boolean } | null>(null);
  if (!isWiped(scene)) return null;
  const { place, way } = scene.wipe;
  const across = way === 'across';
  const at = (e: React.PointerEvent): number => (across ? e.clientX / width : -e.clientY / height);
  const moveTo = (wanted: number, key: string): void => {
    const rounded = Math.min(1, Math.max(0, Math.round(1000 * wanted) / 1000));
    edit({ type: 'setting.change', thing: 'wipe', change: { place: rounded } }, key);
  };
  const onKeyDown = (e: React.KeyboardEvent): void => {
    const by = { ArrowLeft: -NUDGE, ArrowDown: -NUDGE, ArrowRight: NUDGE, ArrowUp: NUDGE }[e.key];
    if (by === undefined) return;
    e.preventDefault();
    e.stopPropagation();
    moveTo(place + by, 'wipe-by-keys');
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Anchor asChild>
        <button
          type="button"
          role="slider"
          data-handle="wipe"
          aria-label="The wipe: drag it over the picture, or press it for its settings"
          aria-orientation={across ? 'horizontal' : 'vertical'}
          aria-valuemin={0}
          aria-valuemax={100}
          aria-valuenow={Math.round(100 * place)}
          title="Drag the wipe; click for its settings"
          className={`absolute flex size-8 -translate-x-1/2 -translate-y-1/2 items-center justify-center rounded-full border-2 border-accent bg-sheet/95 text-accent shadow-md ${across ? 'cursor-ew-resize' : 'cursor-ns-resize'}`}
          style={
            across
              ? { left: within(place * width, width), top: 0.82 * height }
              : { left: 0.18 * width, top: within((1 - place) * height, height) }
          }
          onPointerDown={(e) => {
            if (e.button !== 0) return;
            e.currentTarget.setPointerCapture(e.pointerId);
            drag.current = { key: freshId('wipe'), at: at(e), place, moved: false };
          }}
          onPointerMove={(e) => {
            const begin = drag.current;
            if (!begin) return;
            const by = at(e) - begin.at;
            begin.moved ||= Math.abs(by) * (across ? width : height) > STILL;
            if (begin.moved) moveTo(begin.place + by, begin.key);
          }}
          onPointerUp={() => {
            if (drag.current && !drag.current.moved) setOpen(true);
            drag.current = null;
          }}
          onKeyDown={(e) => (e.key === 'Enter' || e.key === ' ' ? setOpen(true) : onKeyDown(e))}
        >
          {across ? <SeparatorVertical size={18} /> : <SeparatorHorizontal size={18} />}
        </button>
      </Popover.Anchor>
      <Popover.Portal>
        <Popover.Content side="top" sideOffset={10} collisionPadding={12} className="card z-50 w-72 p-3">
          <ThingControls thing={sceneThing('wipe')} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** A place along a picture where all of the handle is seen. */
const within = (at: number, length: number): number => Math.min(length - REACH, Math.max(REACH, at));
