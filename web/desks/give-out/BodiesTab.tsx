import { useState } from 'react';
import { type SceneWriter, sceneWriters } from '#core/formats/surfaces/scene-writers.ts';
import { fileName } from '#core/language/file-name.ts';
import { stepRange } from '#core/motion/play-clock.ts';
import { pluralKind } from '#core/motion/step-text.ts';
import { writeBodies } from '#stage/bodies-out/write-bodies.ts';
import { usePreflight } from '#web/desks/preflight/use-preflight.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { Progress } from '#web/desks/shared/Progress.tsx';
import { saveFile } from '#web/desks/shared/save-file.ts';
import { sayBytes } from '#web/desks/shared/say-bytes.ts';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { useWork } from '#web/desks/shared/work-state.ts';
import { NumberField } from '#web/desks/stage/Chooser.tsx';
import { pictureAspect, sceneNow, useDesk, useRun } from '#web/desks/stage/desk-store.ts';
import { BeforeItLeaves } from './BeforeItLeaves.tsx';
import { collectBodies, leftOutBy } from './collect-bodies.ts';
import type { GiveOutProps } from './give-out-props.ts';

interface Made {
  format: SceneWriter;
  bytes: Uint8Array<ArrayBuffer>;
  said: string;
  notes: string[];
}

/** The scene as bodies in one file, to be turned around in other programs. */
export function BodiesTab({ controller }: GiveOutProps) {
  const run = useRun();
  const several = run.steps.length > 1;
  const [all, setAll] = useState(false);
  const [every, setEvery] = useState(1);
  const [rate, setRate] = useState(() => Math.min(30, Math.max(1, Math.round(run.steps.length / 6))));
  const [exact, setExact] = useState(true);
  const [legend, setLegend] = useState(true);
  const [format, setFormat] = useState(sceneWriters[0]);
  const [packed, setPacked] = useState(false);
  const [made, setMade] = useState<Made | null>(null);
  const { work, problem, run: doWork } = useWork();
  const steps = stepRange(0, run.steps.length - 1, every);

  const findings = usePreflight();

  const make = () =>
    doWork('Collecting bodies', async (progress, signal) => {
      useDesk.setState({ playing: false });
      const wanted = all && several ? steps : [sceneNow().step];
      const found = await collectBodies(controller.source, sceneNow(), {
        steps: wanted,
        aspect: pictureAspect(useDesk.getState()),
        exact,
        legend,
        pace: 1 / rate,
        progress: (done, what) => progress(0.8 * done, what),
        signal,
      });
      const bytes = await writeBodies(found.scene, format.id, packed && format.packedBy !== null, signal);
      setMade({
        format,
        bytes,
        said: `${sayBytes(bytes.length)}, ${found.triangles.toLocaleString('en')} triangles${wanted.length > 1 ? `, ${wanted.length} steps` : ''}`,
        notes: leftOutBy(format, found),
      });
    });

  return (
    <div className="flex flex-col gap-4">
      <p className="text-soft">
        What is shown as bodies with their colours, lights and views, in one file: to be turned around in
        other programs.
      </p>
      <fieldset>
        <legend className="head mb-1.5">Kind</legend>
        <div className="flex flex-wrap gap-1">
          {sceneWriters.map((w) => (
            <Pill key={w.id} on={w === format} title={`For ${w.purpose}`} onClick={() => setFormat(w)}>
              {w.name}
            </Pill>
          ))}
        </div>
        <p className="mt-1 text-xs text-soft">For {format.purpose}.</p>
      </fieldset>
      {several && (
        <fieldset>
          <legend className="head mb-1.5">Shows</legend>
          <div className="flex flex-wrap gap-1">
            <Pill on={!all} onClick={() => setAll(false)}>
              what is on the stage
            </Pill>
            <Pill on={all} onClick={() => setAll(true)}>
              the {pluralKind[run.steps[0].kind]} in turn
            </Pill>
          </div>
          {all && (
            <div className="mt-2 flex flex-wrap gap-3">
              <NumberField
                label="Every"
                value={every}
                onChange={(v) => setEvery(Math.max(1, Math.round(v)))}
              />
              <NumberField
                label="A second"
                value={rate}
                onChange={(v) => setRate(Math.min(60, Math.max(0.1, v)))}
              />
            </div>
          )}
        </fieldset>
      )}
      <fieldset>
        <legend className="head mb-1.5">Colours of values</legend>
        <div className="flex flex-wrap gap-1">
          <Pill on={exact} title="Whatever the light of the viewer" onClick={() => setExact(true)}>
            as the legend has them
          </Pill>
          <Pill
            on={!exact}
            title="They become darker in the shade, as paint does"
            onClick={() => setExact(false)}
          >
            in the light
          </Pill>
        </div>
      </fieldset>
      <div className="flex flex-col gap-1.5">
        <Tick label="With its legends, where the camera sees them" checked={legend} onChange={setLegend} />
        {format.packedBy && (
          <Tick
            label={`Packed by ${format.packedBy}: smaller, for viewers that know it`}
            checked={packed}
            onChange={setPacked}
          />
        )}
      </div>
      <BeforeItLeaves findings={findings.filter((f) => f.place.kind !== 'words')} />
      {work ? (
        <Progress {...work} onCancel={work.cancel} />
      ) : (
        <button type="button" className={made ? 'quiet' : 'act'} onClick={make}>
          Make the {format.name}
        </button>
      )}
      {problem && <ProblemNote problem={problem} />}
      {made && !work && (
        <div>
          <p className="flex items-center justify-between gap-2 text-xs text-soft" role="status">
            {made.said}
            <button
              type="button"
              className="act shrink-0 text-sm"
              onClick={() =>
                saveFile(
                  new Blob([made.bytes], { type: made.format.type }),
                  `${fileName(sceneNow().name)}${made.format.ending}`,
                )
              }
            >
              Save
            </button>
          </p>
          {made.notes.length > 0 && (
            <p className="mt-1.5 text-xs text-warn">Left out: {made.notes.join('; ')}.</p>
          )}
        </div>
      )}
    </div>
  );
}
