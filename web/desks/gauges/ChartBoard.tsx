import { PanelBottom, PanelRight, Plus } from 'lucide-react';
import { Guard } from '#web/desks/shared/Guard.tsx';
import { Progress } from '#web/desks/shared/Progress.tsx';
import { undo, useDesk, useScene } from '#web/desks/stage/desk-store.ts';
import { ChartCard } from './ChartCard.tsx';
import { takesCurves } from './dragged-curve.ts';
import { addChart } from './draw-curves.ts';

export type BoardPlace = 'under' | 'beside';

/** The charts of the scene, under or beside its stage. */
export function ChartBoard({ place, onPlace }: { place: BoardPlace; onPlace(place: BoardPlace): void }) {
  const { charts } = useScene();
  const measuring = useDesk((s) => s.measuring);
  const beside = place === 'beside';
  return (
    <section
      aria-label="Charts"
      className={`flex min-h-0 shrink-0 flex-col border-rule bg-paper ${beside ? 'w-[46%] border-l' : 'h-[46%] border-t'}`}
      {...takesCurves(null)}
    >
      <div className="flex h-9 shrink-0 items-center gap-2 border-b border-rule/70 px-3 text-sm">
        <button
          type="button"
          className="inline-flex items-center gap-1.5 rounded-full px-2 py-0.5 font-medium text-accent hover:bg-accent-wash"
          onClick={addChart}
        >
          <Plus size={15} /> Chart
        </button>
        <div className="min-w-0 flex-1">
          {measuring && 'goOn' in measuring && (
            <p role="status" className="text-center text-xs text-soft">
              Stopped at {Math.floor(100 * measuring.done)} % of the steps.{' '}
              <button
                type="button"
                className="font-medium text-accent hover:underline"
                onClick={measuring.goOn}
              >
                Measure the rest
              </button>
            </p>
          )}
          {measuring && 'cancel' in measuring && (
            <div className="mx-auto max-w-96">
              <Progress
                label="Measures every step"
                done={measuring.done}
                remaining={null}
                onCancel={measuring.cancel}
              />
            </div>
          )}
        </div>
        <button
          type="button"
          className="mark"
          aria-label={beside ? 'Charts under the stage' : 'Charts beside the stage'}
          title={beside ? 'Charts under the stage' : 'Charts beside the stage'}
          onClick={() => onPlace(beside ? 'under' : 'beside')}
        >
          {beside ? <PanelBottom size={16} /> : <PanelRight size={16} />}
        </button>
      </div>
      {charts.length === 0 ? (
        <p className="m-auto max-w-md px-6 text-center text-soft">
          No curve is drawn. Choose one from the list, draw a gauge over the steps, or drag either here.
        </p>
      ) : (
        <div
          className={`flex min-h-0 flex-1 gap-2.5 p-2.5 ${beside ? 'flex-col overflow-y-auto' : 'overflow-x-auto'}`}
        >
          {charts.map((chart, i) => (
            <Guard key={chart.id} what={`Chart ${i + 1}`} retry={chart} onUndo={undo}>
              <ChartCard chart={chart} />
            </Guard>
          ))}
        </div>
      )}
    </section>
  );
}
