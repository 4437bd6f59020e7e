import { Crosshair, Plus, X } from 'lucide-react';
import { subtract, unit, type Vector } from '#core/model/vectors.ts';
import { cameraAxes } from '#core/scene/camera.ts';
import { firstLamp, lampForHighlight, MOST_PLACED, type PlacedLamp } from '#core/scene/light-rigs/placed.ts';
import { upOf } from '#core/scene/things/upright.ts';
import { sceneNow, useDesk } from '../desk-store.ts';
import type { ControlProps } from './control-props.ts';
import { SlidingNumber } from './NumberControls.tsx';

const sliders: [key: keyof PlacedLamp, label: string, unit: string | null, range: [number, number]][] = [
  ['turn', 'Around', '°', [-180, 180]],
  ['rise', 'Height', '°', [-90, 90]],
  ['wide', 'Width', '°', [0, 90]],
  ['share', 'Share', null, [0, 4]],
  ['warmth', 'Warmth', null, [-1, 1]],
];

/** Lights placed by hand: by drawing the highlight of each over a body, or by numbers. */
export function PlacedLightsControl({ control, options, set }: ControlProps<'placed lights'>) {
  const lights = options[control.key] as PlacedLamp[];
  const put = (next: PlacedLamp[], key: string | null = null): void => set({ [control.key]: next }, key);
  const change = (i: number, more: Partial<PlacedLamp>, key: string | null = null): void => {
    const now = sceneNow().light.lights;
    if (now[i]) put(now.with(i, { ...now[i], ...more }), key);
  };
  const pointFor = (i: number): void => {
    const gesture = `lamp-${i}-${Date.now()}`;
    useDesk.setState({
      pointing: {
        says: `Draw over a body: the highlight of lamp ${i + 1} follows. Escape ends.`,
        brush: true,
        onPick: ({ place, normal }) => {
          const { camera, upright, light } = sceneNow();
          const toEye =
            camera.projection === 'parallel'
              ? cameraAxes(camera).back
              : unit(subtract(camera.position, place as Vector));
          change(i, lampForHighlight(normal as Vector, toEye, upOf(upright), light), gesture);
          return false;
        },
      },
    });
  };
  const add = (): void => {
    put([...lights, firstLamp]);
    pointFor(lights.length);
  };
  return (
    <div className="flex flex-col gap-1.5">
      {lights.map((lamp, i) => (
        <details key={i} className="rounded-md border border-rule px-2 py-1" open={lights.length === 1}>
          <summary className="flex cursor-pointer items-center gap-1">
            <span className="flex-1">Lamp {i + 1}</span>
            <button
              type="button"
              className="quiet h-7"
              onClick={(e) => {
                e.preventDefault();
                pointFor(i);
              }}
            >
              <Crosshair size={14} /> Place its highlight
            </button>
            <button
              type="button"
              className="mark size-7"
              aria-label={`Remove lamp ${i + 1}`}
              onClick={() => put(lights.toSpliced(i, 1))}
            >
              <X size={15} />
            </button>
          </summary>
          <div className="mt-1 flex flex-col gap-1.5">
            {sliders.map(([key, label, unitText, range]) => (
              <SlidingNumber
                key={key}
                label={label}
                value={lamp[key]}
                unit={unitText}
                range={range}
                onChange={(v, sliding) =>
                  change(
                    i,
                    { [key]: Math.min(range[1], Math.max(range[0], v)) },
                    sliding ? `lamp-${i}-${key}` : null,
                  )
                }
              />
            ))}
          </div>
        </details>
      ))}
      {lights.length < MOST_PLACED && (
        <button type="button" className="quiet h-7 self-start" onClick={add}>
          <Plus size={14} /> Add a lamp
        </button>
      )}
    </div>
  );
}
