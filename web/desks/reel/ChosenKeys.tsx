import { sameJson } from '#core/model/same-json.ts';
import type { Ease } from '#core/scene/reel/ease.ts';
import { namedEases } from '#core/scene/reel/ease.ts';
import { sayEase } from '#core/scene/reel/ease-words.ts';
import { Choice, Chooser } from '#web/desks/stage/Chooser.tsx';
import { edit, useDesk, useKeptScene } from '#web/desks/stage/desk-store.ts';
import { EaseEditor } from './EaseEditor.tsx';
import { isChosen, type KeyDragging, timeWhileDragged } from './lane-drag.ts';
import { NAMES, placeOfTime, sayFilmTime, type TimeScale } from './time-scale.ts';

/** What can be done with the keys that are chosen, all at once. */
export function ChosenKeys({ scale, dragging }: { scale: TimeScale; dragging: KeyDragging }) {
  const chosen = useDesk((s) => s.chosenKeys);
  const { lanes } = useKeptScene();
  const keys = lanes.flatMap((l) => l.keys.filter((k) => isChosen(chosen, { lane: l.id, at: k.at })));
  if (keys.length === 0) return null;
  const times = keys.map((k) => k.at);
  const [from, to] = [Math.min(...times), Math.max(...times)];
  const [{ ease }] = keys;
  const alike = keys.every((k) => sameJson(k.ease, ease));
  const set = (next: Ease, key: string | null = null) =>
    edit({ type: 'keys.ease', keys: chosen, ease: next }, key);
  return (
    <div className="sticky bottom-0 flex h-8 items-center border-t border-rule bg-paper text-xs">
      <div className="flex shrink-0 items-center gap-2 pl-4" style={{ width: NAMES }}>
        <span className="text-soft">
          {keys.length === 1 ? `Key at ${sayFilmTime(from)} s` : `${keys.length} keys`}
        </span>
        <Chooser word={alike ? sayEase(ease) : 'as they are'} label="How it goes on">
          <div className="flex flex-col gap-0.5">
            {namedEases.map((n) => (
              <Choice key={n.said} chosen={alike && sameJson(n.ease, ease)} onChoose={() => set(n.ease)}>
                {n.name}
              </Choice>
            ))}
          </div>
          <EaseEditor ease={ease} onEase={(next) => set(next, 'ease of keys')} />
        </Chooser>
        <button
          type="button"
          className="word"
          onClick={() => {
            edit({ type: 'keys.remove', keys: chosen });
            useDesk.setState({ chosenKeys: [] });
          }}
        >
          delete
        </button>
      </div>
      <div className="relative h-full min-w-0 flex-1 overflow-hidden">
        {to > from && <StretchBar {...{ scale, dragging, from, to }} />}
      </div>
    </div>
  );
}

interface StretchProps {
  scale: TimeScale;
  dragging: KeyDragging;
  from: number;
  to: number;
}

/** The time several keys take: its ends are dragged to stretch it. */
function StretchBar({ scale, dragging: { drag, stretch }, from, to }: StretchProps) {
  const [left, right] = [from, to].map((at) => placeOfTime(scale, drag ? timeWhileDragged(drag, at) : at));
  return (
    <div
      className="absolute top-1/2 h-1 -translate-y-1/2 rounded-full bg-accent/40"
      style={{ left, width: right - left }}
    >
      {(['from', 'to'] as const).map((end) => (
        <span
          key={end}
          title="Drag to stretch the chosen keys"
          className={`absolute top-1/2 h-3.5 w-1.5 -translate-y-1/2 cursor-ew-resize touch-none rounded-sm bg-accent ${end === 'from' ? 'left-0' : 'right-0'}`}
          onPointerDown={(e) => stretch(e, from, to, end)}
        />
      ))}
    </div>
  );
}
