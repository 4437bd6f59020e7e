import { Footprints, Layers2, Maximize2 } from 'lucide-react';
import { type ViewName, viewDirections } from '#core/scene/camera.ts';
import { withProjection } from '#core/scene/camera-moves.ts';
import { lookInside } from '#core/scene/things/look-inside.ts';
import { useRoving } from '#web/desks/shared/roving.ts';
import { edit, useDesk, useRun, useScene } from './desk-store.ts';
import { lookAt, lookFrom } from './look-from.ts';
import { walkOrNot } from './walking.ts';

const axisViews: { view: ViewName; label: string }[] = [
  { view: 'right', label: '+x' },
  { view: 'left', label: '−x' },
  { view: 'back', label: '+y' },
  { view: 'front', label: '−y' },
  { view: 'above', label: '+z' },
  { view: 'below', label: '−z' },
];

/** How looking inside is said on its button. */
const sayInside = Object.fromEntries(
  lookInside.controls.flatMap((c) => (c.kind === 'choice' ? c.choices.map((o) => [o.value, o.label]) : [])),
);
const nextInside = { off: 'translucent', translucent: 'removed', removed: 'off' } as const;

/** Looks from a direction, with the whole run in the picture. */
const look = (view: Parameters<typeof lookFrom>[0]): void =>
  edit({ type: 'setting.change', thing: 'camera', change: lookFrom(view, useDesk.getState()) });

/** Views from the axes and aslant, the whole run again, and the two projections. */
export function ViewButtons() {
  const { camera } = useScene();
  const bar = useRoving<HTMLDivElement>();
  const parallel = camera.projection === 'parallel';
  const peeling = useDesk((s) => s.peeling);
  const walking = useDesk((s) => s.walking);
  const flat = useDesk((s) => s.flat);
  const several = useRun().parts.length > 1;
  const { front } = useScene().lookInside;
  const fitAgain = () => {
    const desk = useDesk.getState();
    edit({ type: 'setting.change', thing: 'camera', change: lookAt(desk.shown, desk) });
  };
  return (
    <div ref={bar} role="toolbar" aria-label="Views" className="flex items-center whitespace-nowrap">
      <button
        type="button"
        className="mark"
        onClick={fitAgain}
        aria-label="Show the whole run"
        title="Show the whole run"
      >
        <Maximize2 size={15} />
      </button>
      <span className="mx-1 h-4 w-px bg-rule" />
      {axisViews.map(({ view, label }) => (
        <button
          key={view}
          type="button"
          className="mark w-8 text-xs font-medium tabular-nums"
          onClick={() => look(view)}
          aria-label={`Look ${viewDirections[view].name}`}
          title={`Look ${viewDirections[view].name}`}
        >
          {label}
        </button>
      ))}
      <button
        type="button"
        className="mark w-auto px-2.5 text-xs font-medium"
        onClick={() => look('oblique')}
      >
        aslant
      </button>
      <span className="mx-1 h-4 w-px bg-rule" />
      <button
        type="button"
        className="mark w-auto px-2.5 text-xs font-medium"
        aria-pressed={parallel}
        title={
          parallel
            ? 'Parallel lines stay parallel; click for perspective'
            : 'Perspective; click for parallel projection'
        }
        onClick={() =>
          edit({
            type: 'setting.change',
            thing: 'camera',
            change: withProjection(camera, parallel ? 'perspective' : 'parallel'),
          })
        }
      >
        {parallel ? 'parallel' : 'perspective'}
      </button>
      {!flat && (
        <button
          type="button"
          className={`mark w-auto gap-1.5 px-2.5 text-xs font-medium ${walking ? 'bg-accent-wash text-accent' : ''}`}
          aria-pressed={walking}
          title="Go through the model: drag to look around, wheel and arrows to go on, with Shift aside and up"
          onClick={walkOrNot}
        >
          <Footprints size={15} /> walk
        </button>
      )}
      {several && (
        <>
          <span className="mx-1 h-4 w-px bg-rule" />
          <button
            type="button"
            className={`mark w-auto px-2.5 text-xs font-medium ${front !== 'off' ? 'bg-accent-wash text-accent' : ''}`}
            aria-pressed={front !== 'off'}
            title="Parts in front of the middle: as they are, see-through, or gone"
            onClick={() =>
              edit({ type: 'setting.change', thing: 'lookInside', change: { front: nextInside[front] } })
            }
          >
            {sayInside[front]}
          </button>
          <span className="mx-1 h-4 w-px bg-rule" />
          <button
            type="button"
            className={`mark w-auto gap-1.5 px-2.5 text-xs font-medium ${peeling ? 'bg-accent-wash text-accent' : ''}`}
            aria-pressed={peeling}
            title="Hide what is in front: every click hides the part under it; undo brings the last one back"
            onClick={() => useDesk.setState({ peeling: !peeling })}
          >
            <Layers2 size={15} /> clear the view
          </button>
        </>
      )}
    </div>
  );
}
