import { useEffect, useState } from 'react';
import { sayNumber, sayQuantity } from '#core/language/sentence.ts';
import { boundsDiagonal } from '#core/model/mesh.ts';
import { quantityName } from '#core/model/quantity.ts';
import { fieldByKey, runBounds } from '#core/model/run.ts';
import { unitChange } from '#core/model/units.ts';
import { unitsOfScale } from '#core/scene/settle-scale.ts';
import type { Picked } from '#stage/picking.ts';
import type { Viewport } from '#stage/viewport.ts';
import { sceneNow, useDesk, useRun, useScene } from './desk-store.ts';

interface Probe {
  x: number;
  y: number;
  picked: Picked;
}

/** What lies under the resting cursor. */
export function useProbe(
  viewport: Viewport | null,
  picture: React.RefObject<HTMLDivElement | null>,
): Probe | null {
  const [probe, setProbe] = useState<Probe | null>(null);
  const scene = useScene();
  useEffect(() => setProbe(null), [scene]);
  useEffect(() => {
    const element = picture.current;
    if (!viewport || !element) return;
    let timer = 0;
    let asked = 0;
    const onMove = (event: PointerEvent) => {
      asked++;
      clearTimeout(timer);
      setProbe(null);
      if (event.buttons !== 0 || event.target !== element.firstElementChild || useDesk.getState().playing)
        return;
      const box = element.getBoundingClientRect();
      const x = event.clientX - box.left;
      const y = event.clientY - box.top;
      const own = ++asked;
      timer = window.setTimeout(async () => {
        const picked = await viewport.pick(x / box.width, y / box.height);
        if (picked && own === asked) setProbe({ x, y, picked });
      }, 40);
    };
    const onLeave = () => {
      asked++;
      clearTimeout(timer);
      setProbe(null);
    };
    element.addEventListener('pointermove', onMove);
    element.addEventListener('pointerleave', onLeave);
    return () => {
      asked++;
      clearTimeout(timer);
      element.removeEventListener('pointermove', onMove);
      element.removeEventListener('pointerleave', onLeave);
    };
  }, [viewport, picture]);
  return probe;
}

/** What is there, in words beside the cursor. */
export function ProbeNote({ x, y, picked, width }: Probe & { width: number }) {
  const run = useRun();
  const layer = sceneNow().layers.find((l) => l.id === picked.layer);
  const colour = layer?.colour;
  const field = colour?.kind === 'field' ? fieldByKey(run, colour.field) : null;
  const scale = colour?.kind === 'field' ? sceneNow().scales.find((s) => s.id === colour.scale) : undefined;
  const units = scale
    ? unitsOfScale(scale, run)
    : { stored: field?.unit ?? null, shown: field?.unit ?? null };
  // In the unit of the legend.
  const said = (value: number): string => {
    const change = units.stored && units.shown ? unitChange(units.stored, units.shown) : null;
    return sayQuantity(change ? value * change.factor + change.shift : value, units.shown, 5);
  };
  const detail = boundsDiagonal(runBounds(run)) * 1e-4;
  const place = picked.place.map((v) => sayNumber(Math.abs(v) < detail ? 0 : v, 4)).join(', ');
  return (
    <div
      role="status"
      className="card pointer-events-none absolute z-10 px-2.5 py-1.5 text-xs whitespace-nowrap"
      style={{
        left: x > width - 220 ? x - 14 : x + 14,
        top: y + 14,
        transform: x > width - 220 ? 'translateX(-100%)' : undefined,
      }}
    >
      {field && colour?.kind === 'field' && (
        <p className="text-sm font-semibold tabular-nums">
          {quantityName(field, colour.component)}{' '}
          {picked.value === null ? 'has no value here' : said(picked.value)}
        </p>
      )}
      {run.parts.length > 1 && <p className="font-medium">{picked.part}</p>}
      <p className="text-soft tabular-nums">
        at ({place}) {run.lengthUnit ?? ''}
      </p>
    </div>
  );
}
