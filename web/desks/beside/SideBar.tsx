import { PanelLeft, Plus } from 'lucide-react';
import {
  type BesideView,
  besideViews,
  type LinkName,
  linkNames,
  MOST_PANES,
  pairOf,
  scenePanes,
} from '#core/beside/side-by-side.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { useRoving } from '#web/desks/shared/roving.ts';
import { Choice, Chooser } from '#web/desks/stage/Chooser.tsx';
import { AddPanes } from './AddPanes.tsx';
import { chosenPane, editSide, titleOf, useBeside, useSide } from './beside-store.ts';

const links: Record<LinkName, { word: string; says: string }> = {
  camera: { word: 'camera', says: 'One camera: turn one picture, and all turn' },
  times: { word: 'time', says: 'One time: every run is shown at the time nearest to it' },
  scales: { word: 'scales', says: 'One scale: colours begin and end alike in all pictures' },
  lines: { word: 'lines', says: 'What is done to a line is done to its likes in all scenes' },
  looks: { word: 'looks', says: 'Light, floor, backdrop and finish of the picture' },
};

const views: Record<BesideView, string> = {
  panes: 'each in its own place',
  wipe: 'one upon the other, parted by a line that is dragged',
  blink: 'one after the other in the same place',
  blend: 'one through the other',
  difference: 'what the first shows less what the second shows',
};

/** What goes together in the panes, and how they are laid out. */
export function SideBar({ lines, onLines }: { lines: boolean; onLines(on: boolean): void }) {
  const side = useSide();
  const bar = useRoving<HTMLDivElement>();
  const leader = useBeside((s) => chosenPane(s)?.id ?? null);
  const { show } = side;
  const isPair = show.as !== 'panes';
  return (
    <div
      ref={bar}
      role="toolbar"
      aria-label="Side by side"
      className="flex min-h-11 shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule bg-paper px-4 py-1.5 text-sm"
    >
      <button
        type="button"
        className="quiet h-8"
        aria-pressed={lines}
        title="The lines of the chosen picture; what is changed there is changed in all that are linked"
        onClick={() => onLines(!lines)}
      >
        <PanelLeft size={15} /> Lines
      </button>
      <fieldset className="flex items-center gap-1.5">
        <legend className="sr-only">What goes together</legend>
        <span className="text-soft">Together:</span>
        {linkNames.map((link) => (
          <Pill
            key={link}
            on={side.links[link]}
            title={links[link].says}
            onClick={() => editSide({ type: 'side.link', link, on: !side.links[link], leader })}
          >
            {links[link].word}
          </Pill>
        ))}
      </fieldset>
      <fieldset className="flex items-center gap-1.5">
        <legend className="sr-only">How the panes are laid out</legend>
        <span className="text-soft">Shown as</span>
        {besideViews.map((as) => (
          <Pill
            key={as}
            on={show.as === as}
            title={views[as]}
            onClick={() => editSide({ type: 'side.show', change: { as } })}
          >
            {as}
          </Pill>
        ))}
      </fieldset>
      {isPair && <PairChoice />}
      {show.as === 'blend' && (
        <input
          type="range"
          min={0}
          max={1}
          step={0.01}
          className="w-28"
          aria-label="How much of the first is seen"
          value={show.share}
          onChange={(e) =>
            editSide({ type: 'side.show', change: { share: Number(e.target.value) } }, 'share')
          }
        />
      )}
      <div className="ml-auto flex items-center gap-2">
        {!isPair && <AcrossChoice />}
        <Pill
          on={show.legend}
          title="Scales that are shared have one legend below all pictures"
          onClick={() => editSide({ type: 'side.show', change: { legend: !show.legend } })}
        >
          one legend
        </Pill>
        <Chooser
          word={
            <>
              <Plus size={15} /> Pane
            </>
          }
          label="Add panes"
          look="quiet h-8"
          side="bottom"
          wide
        >
          {side.panes.length < MOST_PANES ? (
            <AddPanes room={MOST_PANES - side.panes.length} />
          ) : (
            <p className="text-soft">There are {MOST_PANES} panes: take one away first.</p>
          )}
        </Chooser>
      </div>
    </div>
  );
}

function AcrossChoice() {
  const side = useSide();
  const { across } = side.show;
  const change = (to: number | null): void => editSide({ type: 'side.show', change: { across: to } });
  return (
    <Chooser
      word={across === null ? 'rows as they fit' : across === 1 ? '1 in a row' : `${across} in a row`}
      label="How many panes stand in a row"
      side="bottom"
    >
      <Choice chosen={across === null} onChoose={() => change(null)}>
        as they fit best
      </Choice>
      {side.panes.map((pane, i) => (
        <Choice key={pane.id} chosen={across === i + 1} onChoose={() => change(i + 1)}>
          {i + 1} in a row
        </Choice>
      ))}
    </Chooser>
  );
}

/** Which two lie upon each other. */
function PairChoice() {
  const side = useSide();
  const runs = useBeside((s) => s.runs);
  const pair = pairOf(side);
  if (!pair) return <p className="text-warn">Two scenes are needed for that.</p>;
  const all = scenePanes(side);
  const one = (which: 'first' | 'second', at: 0 | 1) => (
    <Chooser word={titleOf(pair[at], runs)} label={`Which is the ${which}`} side="bottom">
      {all.map((pane) => (
        <Choice
          key={pane.id}
          chosen={pane === pair[at]}
          onChoose={() => {
            // Chosen for the one place, it leaves the other to what stood there.
            const other = pane === pair[1 - at] ? pair[at].id : pair[1 - at].id;
            const change =
              which === 'first' ? { first: pane.id, second: other } : { second: pane.id, first: other };
            editSide({ type: 'side.show', change });
          }}
        >
          {titleOf(pane, runs)}
        </Choice>
      ))}
    </Chooser>
  );
  return (
    <p className="flex items-baseline gap-1.5 font-book text-[16px]">
      {one('first', 0)} {side.show.as === 'difference' ? 'less' : 'upon'} {one('second', 1)}
    </p>
  );
}
