import { Guard } from '#web/desks/shared/Guard.tsx';
import { undo, useScene } from '#web/desks/stage/desk-store.ts';
import { AddGauge } from './AddGauge.tsx';
import { CurveList } from './CurveList.tsx';
import { GaugeLine } from './GaugeLine.tsx';

/** The numbers of the scene, and the curves that could be drawn. */
export function GaugePanel() {
  const { gauges } = useScene();
  return (
    <aside
      id="lines"
      aria-label="Gauges"
      className="flex w-[340px] shrink-0 flex-col border-r border-rule bg-paper"
    >
      <div className="min-h-0 flex-1 overflow-y-auto">
        <ul className="flex flex-col gap-0.5 px-2 pt-2">
          {gauges.map((gauge, i) => (
            <Guard key={gauge.id} what={`Gauge ${i + 1}`} retry={gauge} onUndo={undo}>
              <GaugeLine gauge={gauge} />
            </Guard>
          ))}
        </ul>
        {gauges.length === 0 && (
          <p className="px-5 pt-3 text-soft">
            No numbers yet. Ask for an average, an extreme, a force, a flow, a count: it is read at every
            step, can be written on the picture and drawn as a curve.
          </p>
        )}
        <AddGauge />
        <CurveList />
      </div>
    </aside>
  );
}
