import { Trash2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import type { RunDescription } from '#core/model/run.ts';
import { sayAsk } from '#core/scene/ask.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Scene } from '#core/scene/document.ts';
import { givesCurve } from '#core/scene/gauge-label.ts';
import { type MeasuredOutput, measureMoments } from '#core/sets/measured-outputs.ts';
import { ask } from '#engine/server-requests.ts';
import { AskSentence } from '#web/desks/gauges/AskSentence.tsx';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { Progress } from '#web/desks/shared/Progress.tsx';
import { Choice, Chooser } from '#web/desks/stage/Chooser.tsx';
import { editSet, useRunSet, useSet } from './set-store.ts';
import { useMeasuring } from './use-measuring.ts';

/** What is measured on every run, beside what its files say of it. */
export function MeasuredOutputs() {
  const { measures, runs } = useRunSet();
  const steps = useSet((s) => Math.max(1, ...s.runs.filter((r) => runs.includes(r.id)).map((r) => r.steps)));
  const measuring = useMeasuring();
  const [open, setOpen] = useState(false);
  return (
    <section aria-label="Measured outputs" className="flex flex-col gap-1.5">
      <p>
        {measures.length === 0 ? 'Nothing is measured on the runs: ' : 'Measured on every run, '}
        <Chooser word="ask for a number" label="Ask for a number" wide open={open} onOpen={setOpen}>
          <NewMeasure onDone={() => setOpen(false)} />
        </Chooser>
        {measures.length === 0 ? '.' : ':'}
      </p>
      {measures.length > 0 && (
        <ul className="flex flex-col gap-1">
          {measures.map((measure) => (
            <li key={measure.id} className="flex items-baseline gap-2 text-sm">
              <span className="min-w-0 break-words">
                {measure.sentence}
                {steps > 1 && (
                  <>
                    , <Moment measure={measure} />
                  </>
                )}
              </span>
              <button
                type="button"
                className="mark ml-auto size-6 shrink-0 self-start"
                aria-label={`Measure ${measure.sentence} no more`}
                title="Measure it no more"
                onClick={() => editSet({ type: 'set.measure.remove', id: measure.id })}
              >
                <Trash2 size={14} />
              </button>
            </li>
          ))}
        </ul>
      )}
      {measuring && (
        <Progress
          label={`Measures run ${Math.min(measuring.done + 1, measuring.all)} of ${measuring.all}`}
          done={measuring.done / measuring.all}
          remaining={null}
          stops="Stop"
          onCancel={measuring.stop}
        />
      )}
    </section>
  );
}

/** Which of the numbers of all steps stands in the table. */
function Moment({ measure }: { measure: MeasuredOutput }) {
  return (
    <Chooser word={measure.at} label={`Which step of ${measure.sentence}`}>
      {measureMoments.map((at) => (
        <Choice
          key={at}
          chosen={at === measure.at}
          onChoose={() => editSet({ type: 'set.measure', measure: { ...measure, at } })}
        >
          {at}
        </Choice>
      ))}
    </Chooser>
  );
}

/** A question about all runs: typed, or as a gauge of a scene of one of them asks it. */
function NewMeasure({ onDone }: { onDone(): void }) {
  const { runs, measures } = useRunSet();
  const known = useSet((s) => s.runs);
  const [about, setAbout] = useState<{ run: RunDescription; scene: Scene; gauges: string[] } | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const dressed = known.find((r) => runs.includes(r.id) && r.scene) ?? known.find((r) => runs.includes(r.id));
  useEffect(() => {
    if (dressed)
      lookAt(dressed.id, dressed.scene).then(setAbout, (error: Error) => setTrouble(error.message));
  }, [dressed?.id]);
  if (trouble) return <p role="alert">{trouble}</p>;
  if (!about)
    return <p className="text-soft">{dressed ? 'Reading what the runs hold …' : 'The set is empty.'}</p>;
  const add = (sentence: string): void => {
    editSet({ type: 'set.measure', measure: { id: freshId('measure'), sentence, at: 'at the last step' } });
    onDone();
  };
  const offered = about.gauges.filter((s) => !measures.some((m) => m.sentence === s));
  return (
    <>
      <AskSentence
        run={about.run}
        scene={about.scene}
        begin=""
        confirmWord="Measure on every run"
        onAsk={add}
        onDone={onDone}
      />
      {offered.length > 0 && (
        <>
          <p className="head mt-3 mb-1">or as a gauge of {about.run.name} asks it</p>
          <ul className="flex flex-col">
            {offered.map((sentence) => (
              <li key={sentence}>
                <Choice chosen={false} onChoose={() => add(sentence)}>
                  {sentence}
                </Choice>
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}

/** A run of the set, and what the gauges of its scene ask. */
async function lookAt(id: string, scene: string | null) {
  const [{ description }, opened] = await Promise.all([
    ask<{ description: RunDescription }>(`/api/runs/${id}`),
    scene === null ? null : ask<{ document: Scene }>(`/api/scenes/${scene}`),
  ]);
  const run = withOfferedQuantities(description);
  const own = opened?.document ?? null;
  const gauges = (own?.gauges ?? []).flatMap((gauge) => {
    // What it asks of the run alone: not of lines, quantities and sets that only its scene has.
    const { on } = gauge;
    return own && !givesCurve(gauge) && on.from === null ? [sayAsk(gauge, own, run)] : [];
  });
  return { run, scene: defaultScene(run), gauges: [...new Set(gauges)] };
}
