import { Plus, Search } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useRun, useScene } from '#web/desks/stage/desk-store.ts';
import { useOtherRuns } from '#web/desks/stage/other-runs.ts';
import { dragged } from './dragged-curve.ts';
import { drawCurve } from './draw-curves.ts';
import { matching, type OfferedCurve, offeredCurves } from './offered-curves.ts';

/** So many are shown at once; with more, one goes on typing. */
const SHOWN = 40;

/** Every curve that could be drawn, to be searched; none is drawn before it is chosen. */
export function CurveList() {
  const run = useRun();
  const { gauges, sets } = useScene();
  const scene = useScene();
  const [typed, setTyped] = useState('');
  const others = useOtherRuns();
  const offered = useMemo(() => offeredCurves(scene, run, others), [gauges, sets, run, others]);
  const found = matching(offered, typed);
  const single = run.steps.length < 2;
  return (
    <section aria-label="Curves" className="border-t border-rule/70 px-3 py-2">
      <h2 className="px-2 py-1 font-medium">Curves</h2>
      {single && offered.length === 0 ? (
        <p className="px-2 pb-1 text-sm text-soft">
          This run has one step and no histories: there is nothing to draw over time.
        </p>
      ) : (
        <>
          <label className="relative mt-1 block">
            <Search size={14} className="absolute top-2 left-2 text-soft" />
            <input
              type="search"
              aria-label="Search curves"
              className="field w-full pl-7"
              placeholder="maximum temperature …"
              value={typed}
              onChange={(e) => setTyped(e.target.value)}
            />
          </label>
          <ul className="mt-1.5 flex flex-col">
            {found.slice(0, SHOWN).map((curve) => (
              <Offered key={`${curve.group}/${curve.name}`} curve={curve} />
            ))}
          </ul>
          <p className="px-2 pt-1 text-xs text-soft">
            {found.length > SHOWN
              ? `${(found.length - SHOWN).toLocaleString('en')} more: go on typing`
              : typed === '' && offered.length > found.length
                ? `${offered.length.toLocaleString('en')} to search: ${[
                    ...(single
                      ? []
                      : ['average, maximum, minimum, integral, deviation and sum of every quantity']),
                    ...(others.some((r) => r.histories.length > 0) ? ['histories of other runs'] : []),
                  ].join('; ')}`
                : found.length === 0
                  ? 'Nothing of that name. Ask for a number above to draw it.'
                  : ''}
          </p>
        </>
      )}
    </section>
  );
}

function Offered({ curve }: { curve: OfferedCurve }) {
  const draw = () => {
    const made = curve.make();
    if (made) drawCurve(made);
  };
  const made = useMemo(() => (curve.group === 'quantities' ? null : curve.make()), [curve]);
  return (
    <li>
      <button
        type="button"
        className="group/offer flex w-full items-baseline gap-2 rounded-md px-2 py-1 text-left text-sm hover:bg-sunk"
        title="Draw it, or drag it into a chart"
        onClick={draw}
        {...(made
          ? dragged(made)
          : { draggable: true, onDragStart: (e) => dragged(curve.make()!).onDragStart(e) })}
      >
        <Plus size={13} className="translate-y-0.5 shrink-0 text-soft group-hover/offer:text-accent" />
        <span className="min-w-0 flex-1">{curve.name}</span>
        {curve.unit && <span className="shrink-0 text-xs text-soft">{curve.unit}</span>}
      </button>
    </li>
  );
}
