import { ChartLine, ChevronDown, Copy, MessageSquareQuote, TextCursorInput, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { sayStep } from '#core/motion/step-text.ts';
import { annotationKind } from '#core/scene/annotations/registry.ts';
import { sayAsk } from '#core/scene/ask.ts';
import type { Gauge } from '#core/scene/document.ts';
import { gaugeLabel, givesCurve } from '#core/scene/gauge-label.ts';
import { readAsk } from '#core/scene/read-ask.ts';
import { isReading } from '#core/scene/reading.ts';
import { sayBesideReading, sayMeasuredOn, sayValueRead } from '#core/scene/say-reading.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { edit, sceneNow, useDesk, useRun, useScene } from '#web/desks/stage/desk-store.ts';
import { addWords } from '#web/desks/stage/words/word-edits.ts';
import { AskField } from './AddGauge.tsx';
import { dragged } from './dragged-curve.ts';
import { drawCurve, partsOf, sourceOf } from './draw-curves.ts';

/** A number of the scene: what is asked, and what it comes to at the step on show. */
export function GaugeLine({ gauge }: { gauge: Gauge }) {
  const run = useRun();
  const scene = useScene();
  const { id } = gauge;
  const open = useDesk((s) => s.openGauge === id);
  const found = useDesk((s) => s.readings[id]);
  const label = gaugeLabel(gauge, scene, run);
  return (
    <li
      className={`rounded-lg ${open ? 'bg-sheet shadow-[inset_0_0_0_1px_var(--rule)]' : 'hover:bg-sunk'}`}
      {...dragged({ of: sourceOf(gauge) })}
    >
      <button
        type="button"
        className="flex w-full items-start gap-2 px-2 py-1.5 text-left"
        aria-expanded={open}
        onClick={() => useDesk.setState({ openGauge: open ? null : id })}
      >
        <ChevronDown size={15} className={`mt-1 shrink-0 text-soft transition ${open ? '' : '-rotate-90'}`} />
        <span className="min-w-0 flex-1 font-book text-[15.5px] leading-snug first-letter:uppercase">
          {label}
        </span>
        <span
          className={`shrink-0 pt-px text-right font-medium tabular-nums ${found && !isReading(found) ? 'text-warn' : ''}`}
          data-testid="reading"
        >
          {!found ? '…' : isReading(found) ? <Value said={sayValueRead(found)} /> : '–'}
        </span>
      </button>
      {found && !isReading(found) && (
        <p role="status" className="px-2 pb-1.5 pl-8 text-xs text-warn">
          {found.trouble}
        </p>
      )}
      {found && isReading(found) && found.note && !open && (
        <p role="status" className="px-2 pb-1.5 pl-8 text-xs text-warn">
          {found.note}
        </p>
      )}
      {open && <Opened gauge={gauge} />}
    </li>
  );
}

/** Vectors are long and may break between their parts. */
const Value = ({ said }: { said: string }) => (
  <span className={said.startsWith('(') ? 'block max-w-36 text-sm leading-tight' : 'whitespace-nowrap'}>
    {said}
  </span>
);

function Opened({ gauge }: { gauge: Gauge }) {
  const run = useRun();
  const scene = useScene();
  const { id } = gauge;
  const found = useDesk((s) => s.readings[id]);
  const [typing, setTyping] = useState(false);
  const step = run.steps[scene.step];
  const change = (sentence: string): void => {
    const ask = readAsk(sentence, sceneNow(), run);
    if (!('at' in ask)) edit({ type: 'gauge.change', id, change: { ...ask, on: { ...ask.on, id } } });
    setTyping(false);
  };
  return (
    <div className="flex flex-col gap-2 px-3 pb-3 pl-8 text-sm">
      {typing ? (
        <AskField
          begin={sayAsk(gauge, scene, run)}
          confirmWord="Change"
          onAsk={change}
          onDone={() => setTyping(false)}
        />
      ) : (
        isReading(found) && (
          <p className="text-soft">
            On {sayMeasuredOn(found)}
            {run.steps.length > 1 ? `, at ${sayStep(step, run.timeUnit, scene.stamp)}` : ''}.{' '}
            {sayBesideReading(found).map((said) => (
              <span key={said} className={said.startsWith('Look again') ? 'text-warn' : ''}>
                {said}{' '}
              </span>
            ))}
          </p>
        )
      )}
      {(run.steps.length > 1 || givesCurve(gauge)) && (
        <div className="flex flex-wrap items-center gap-1.5">
          <ChartLine size={15} className="text-soft" />
          {partsOf(gauge).map((part) => (
            <button
              key={part}
              type="button"
              className="quiet h-7 px-2.5 text-sm"
              onClick={() => drawCurve({ of: { kind: 'gauge', gauge: id, part } })}
            >
              {part !== 'value' ? part : givesCurve(gauge) ? 'Draw it' : 'Draw over the steps'}
            </button>
          ))}
        </div>
      )}
      <label className="flex items-center gap-2">
        <span className="text-soft">Name</span>
        <input
          className="field h-7 min-w-0 flex-1"
          placeholder="as it asks"
          value={gauge.name ?? ''}
          onChange={(e) =>
            edit({ type: 'gauge.change', id, change: { name: e.target.value || null } }, `name-${id}`)
          }
        />
      </label>
      <div className="flex flex-wrap gap-x-3 gap-y-1">
        <Deed onDo={() => setTyping(!typing)}>
          <TextCursorInput size={14} /> As text
        </Deed>
        <Deed
          onDo={() => {
            addWords(annotationKind('reading'), { gauge: id }, false);
            useDesk.setState({ openGauge: null });
          }}
        >
          <MessageSquareQuote size={14} /> Write on the picture
        </Deed>
        <Deed
          onDo={() => {
            const twin = freshId('gauge');
            edit({ type: 'gauge.add', gauge: { ...gauge, id: twin, on: { ...gauge.on, id: twin } } });
            useDesk.setState({ openGauge: twin });
          }}
        >
          <Copy size={14} /> Duplicate
        </Deed>
        <Deed onDo={() => edit({ type: 'gauge.remove', id })}>
          <Trash2 size={14} /> Delete
        </Deed>
      </div>
    </div>
  );
}

function Deed({ onDo, children }: { onDo(): void; children: React.ReactNode }) {
  return (
    <button type="button" className="flex items-center gap-1 text-soft hover:text-accent" onClick={onDo}>
      {children}
    </button>
  );
}
