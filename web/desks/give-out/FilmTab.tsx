import { useMemo, useState } from 'react';
import { secondsIn } from '#core/model/units.ts';
import { cyclePhases } from '#core/motion/cycle-pictures.ts';
import { exposedScenes } from '#core/motion/exposure.ts';
import type { FilmQuality } from '#core/motion/film-quality.ts';
import { type PictureAt, sceneOfPicture } from '#core/motion/picture-at.ts';
import { stepRange } from '#core/motion/play-clock.ts';
import { filmPictures, posterOfFilm } from '#core/motion/reel-facts.ts';
import { hasFilm } from '#core/motion/scene-at.ts';
import { pluralKind, sayStep } from '#core/motion/step-text.ts';
import { tracksBeside } from '#core/motion/web-vtt.ts';
import type { Scene } from '#core/scene/document.ts';
import { playsInCycle } from '#core/scene/plays-in-cycle.ts';
import { stepsOfStretch } from '#core/scene/things/stretch.ts';
import { meanLuminance } from '#stage/pictures/mean-luminance.ts';
import { pictureWriters } from '#stage/pictures/registry.ts';
import { FINAL_PASSES, PROOF_PASSES } from '#stage/pictures/render-picture.ts';
import { usePreflight } from '#web/desks/preflight/use-preflight.ts';
import { FilmFacts } from '#web/desks/reel/FilmFacts.tsx';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { Progress } from '#web/desks/shared/Progress.tsx';
import { sayBytes } from '#web/desks/shared/say-bytes.ts';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { useWork } from '#web/desks/shared/work-state.ts';
import { NumberField } from '#web/desks/stage/Chooser.tsx';
import { edit, keptSceneNow, useDesk, useKeptScene, useRun } from '#web/desks/stage/desk-store.ts';
import { playsNow } from '#web/desks/stage/play-track.ts';
import { BeforeItLeaves } from './BeforeItLeaves.tsx';
import { developScene } from './darkroom.ts';
import { FilmKinds, usualOutlets } from './FilmKinds.tsx';
import { FilmsAtWork, useFilmsAtWork } from './FilmsAtWork.tsx';
import { checkOutlets, type PictureTaker, sizeForAll, takerOf } from './film-outlets.ts';
import type { GiveOutProps } from './give-out-props.ts';
import { type FilmsMade, MadeFilm } from './MadeFilm.tsx';
import { useOfferedKinds } from './offered-kinds.ts';
import { QualityOfFilm } from './QualityOfFilm.tsx';
import { type Size, SizeFields, sizeOfStage } from './SizeFields.tsx';

const LARGEST_FILM: Size = { width: 3840, height: 2160 };
const qualities = [
  { passes: 4, name: 'Quick' },
  { passes: PROOF_PASSES, name: 'Good' },
  { passes: FINAL_PASSES, name: 'Finest' },
];

/** Pictures of a cycle to begin with, and at most. */
const CYCLE_PICTURES = { usual: 48, most: 720 };

/** A film over the steps of the run, or over one cycle of what plays while the step stands. */
export function FilmTab({ controller, viewport }: GiveOutProps) {
  const scene = useKeptScene();
  const run = useRun();
  const last = run.steps.length;
  const [outlets, setOutlets] = useState(usualOutlets);
  const [size, setSize] = useState(() => sizeOfStage(720));
  const stretch = stepsOfStretch(scene.stretch, last);
  const [from, setFrom] = useState(stretch.first + 1);
  const [to, setTo] = useState(stretch.last + 1);
  const [every, setEvery] = useState(1);
  const [rate, setRate] = useState(() =>
    playsNow() === 'cycle'
      ? rateOfCycle(CYCLE_PICTURES.usual, scene)
      : Math.min(30, Math.max(1, Math.round(last / 6))),
  );
  const [passes, setPasses] = useState(viewport.stage.software ? qualities[0].passes : qualities[1].passes);
  const [made, setMade] = useState<FilmsMade | null>(null);
  const { work, problem, run: doWork } = useWork();
  const [quality, setQuality] = useState<FilmQuality>('good');
  const runId = useDesk((s) => s.runId);
  const atWork = useFilmsAtWork(runId);
  const { moves, closed } = playsInCycle(scene);
  const filmed = hasFilm(scene);
  const [over, setOver] = useState<'film' | 'steps' | 'cycle'>(filmed ? 'film' : playsNow());
  const ofFilm = filmed && over === 'film';
  const ofCycle = moves && over === 'cycle';
  const film = filmPictures(scene);
  const [pictures, setPictures] = useState(CYCLE_PICTURES.usual);
  const steps = stepRange(from - 1, to - 1, every);
  const places = (document: Scene): PictureAt[] => {
    if (ofFilm) return Array.from({ length: film.count }, (_, i) => ({ film: film.at(i) }));
    return ofCycle
      ? cyclePhases(pictures, closed).map((phase) => ({ step: document.step, phase }))
      : steps.map((step) => ({ step }));
  };
  const count = ofFilm ? film.count : ofCycle ? pictures : steps.length;
  const pace = ofFilm ? film.rate : rate;
  const duration = count / pace;
  const [luminances, setLuminances] = useState<number[] | null>(null);
  const checked = useMemo(
    () => ({ scene, run, count, rate: pace, ofReel: ofFilm, luminances }),
    [scene, run, count, pace, ofFilm, luminances],
  );
  const findings = usePreflight({ film: checked }, size);
  const chooseCycle = () => {
    setOver('cycle');
    setRate(rateOfCycle(pictures, scene));
  };

  const make = () =>
    doWork('Making the film', async (progress, signal) => {
      useDesk.setState({ playing: false });
      const of = fitting;
      await checkOutlets(outlets, of);
      const document = keptSceneNow();
      const release = await viewport.hold();
      const takers: PictureTaker[] = [];
      const lights: number[] = [];
      const posterAt = ofFilm ? posterOfFilm(document) : -1;
      let poster: Blob | null = null;
      try {
        const making = { size: of, rate: pace, count, quality, loop: document.reel.loop };
        for (const outlet of outlets) takers.push(await takerOf(outlet, making));
        for (const [n, at] of places(document).entries()) {
          signal.throwIfAborted();
          const state = sceneOfPicture(document, controller.source.run, at);
          const exposed = 'film' in at ? exposedScenes(document, run, at.film, passes) : [];
          const options = {
            ...of,
            transparent: false,
            passes,
            signal,
            progress: (p: number) => progress((n + p) / count, `Picture ${n + 1} of ${count}`),
          };
          const { stage } = viewport;
          const picture = await developScene(stage, controller.source, state, state.step, options, exposed);
          const light = meanLuminance(picture);
          if (light !== null) lights.push(light);
          if (n === posterAt) poster = await pictureWriters[0].write(picture);
          for (const taker of takers) await taker.add(picture);
        }
        const files: FilmsMade['files'] = [];
        for (const outlet of outlets) files.push({ outlet, blob: await takers.shift()!.finish() });
        const bytes = files.map(({ blob }) => sayBytes(blob.size)).join(' + ');
        setLuminances(lights);
        setMade({
          name: document.name,
          said: `${count} pictures, ${duration.toFixed(1)} s, ${of.width} × ${of.height}, ${bytes}`,
          files,
          poster,
          tracks: ofFilm ? tracksBeside(document) : [],
        });
      } finally {
        for (const taker of takers) await taker.cancel();
        release();
      }
    });

  const fitting = sizeForAll(outlets, size);
  const films = outlets.flatMap((o) => ('film' in o ? [o.film] : []));
  const offered = useOfferedKinds();
  const lacking = films.filter((film) => !offered.films.includes(film));
  const makeOnServer = () =>
    atWork.act('POST', `/api/runs/${runId}/films`, {
      scene: keptSceneNow(),
      ...fitting,
      passes,
      films: outlets.map((o) => ('film' in o ? { format: o.film.id, quality } : { pictures: o.pictures.id })),
    });

  return (
    <div className="flex flex-col gap-4">
      <div>
        <FilmKinds outlets={outlets} onOutlets={setOutlets} offered={offered} />
        {lacking.length > 0 && (
          <p className="mt-1.5 text-xs text-warn">
            This browser cannot write {lacking.map(({ name }) => name).join(' and ')}:{' '}
            {ofFilm ? 'make it in the background, or choose another kind' : 'choose another kind'}.
          </p>
        )}
      </div>
      <div>
        <SizeFields size={size} onSize={setSize} largest={LARGEST_FILM} />
        {(fitting.width !== size.width || fitting.height !== size.height) && (
          <p className="mt-1 text-xs text-soft">
            Films of this kind have even sides: it will be {fitting.width} × {fitting.height}.
          </p>
        )}
      </div>
      {((moves && last > 1) || filmed) && (
        <fieldset>
          <legend className="head mb-1.5">Over</legend>
          <div className="flex flex-wrap gap-1">
            {filmed && (
              <Pill on={ofFilm} onClick={() => setOver('film')}>
                the reel
              </Pill>
            )}
            {last > 1 && (
              <Pill on={!ofCycle && !ofFilm} onClick={() => setOver('steps')}>
                the {pluralKind[run.steps[0].kind]}
              </Pill>
            )}
            {moves && (
              <Pill on={ofCycle && !ofFilm} onClick={chooseCycle}>
                one cycle
              </Pill>
            )}
          </div>
        </fieldset>
      )}
      {ofFilm ? (
        <FilmFacts inFull />
      ) : ofCycle ? (
        <fieldset>
          <legend className="head mb-1.5">One cycle</legend>
          <NumberField
            label="Pictures"
            value={pictures}
            onChange={(v) => {
              const wanted = Math.min(CYCLE_PICTURES.most, Math.max(2, Math.round(v)));
              setPictures(wanted);
              setRate(rateOfCycle(wanted, scene));
            }}
          />
          <p className="mt-1 text-xs text-soft">
            {closed
              ? 'The last picture leads to the first: it plays round without a seam.'
              : 'From the beginning of what sweeps to its end.'}
          </p>
        </fieldset>
      ) : (
        <fieldset>
          <legend className="head mb-1.5">Steps</legend>
          <div className="flex items-center gap-1.5">
            <StepNumber label="First step" value={from} low={1} high={to} onChange={setFrom} />
            <span className="text-soft">to</span>
            <StepNumber label="Last step" value={to} low={from} high={last} onChange={setTo} />
            <span className="text-soft">every</span>
            <StepNumber label="Every so many steps" value={every} low={1} high={last} onChange={setEvery} />
          </div>
          <p className="mt-1 text-xs text-soft">
            {steps.length} pictures, {sayStep(run.steps[from - 1], run.timeUnit, scene.stamp)} to{' '}
            {sayStep(run.steps[steps[steps.length - 1] ?? to - 1], run.timeUnit, scene.stamp)}
          </p>
        </fieldset>
      )}
      {!ofFilm && (
        <fieldset className="flex flex-col gap-1.5">
          <legend className="head mb-1.5">Pace</legend>
          <NumberField
            label="Pictures a second"
            value={rate}
            onChange={(v) => setRate(Math.min(120, Math.max(0.1, v)))}
          />
          <NumberField
            label="Length"
            unit="s"
            value={Number(duration.toFixed(3))}
            onChange={(v) => v > 0 && setRate(Number(Math.min(120, Math.max(0.1, count / v)).toPrecision(6)))}
          />
        </fieldset>
      )}
      <fieldset className="flex flex-wrap items-center gap-x-4 gap-y-1.5">
        <legend className="head mb-1.5">Time on the picture</legend>
        <Tick
          label="Stamp"
          checked={scene.stamp.visible}
          onChange={(on) => edit({ type: 'setting.change', thing: 'stamp', change: { visible: on } })}
        />
        {run.timeUnit !== null && run.timeUnit in secondsIn && (
          <select
            aria-label="Time shown in"
            className="field"
            value={scene.stamp.style === 'clock' ? 'clock' : (scene.stamp.unit ?? run.timeUnit)}
            onChange={(e) =>
              edit({
                type: 'setting.change',
                thing: 'stamp',
                change:
                  e.target.value === 'clock'
                    ? { style: 'clock' }
                    : { style: 'decimals', unit: e.target.value },
              })
            }
          >
            <option value="clock">minutes and seconds</option>
            {Object.keys(secondsIn).map((u) => (
              <option key={u} value={u}>
                in {u}
              </option>
            ))}
          </select>
        )}
        <NumberField
          label="Decimals"
          value={scene.stamp.decimals}
          onChange={(v) =>
            edit({
              type: 'setting.change',
              thing: 'stamp',
              change: { decimals: Math.min(6, Math.max(0, Math.round(v))) },
            })
          }
        />
      </fieldset>
      <fieldset>
        <legend className="head mb-1.5">Light</legend>
        <div className="flex gap-1">
          {qualities.map((q) => (
            <Pill
              key={q.passes}
              on={q.passes === passes}
              title={`${q.passes} passes a picture`}
              onClick={() => setPasses(q.passes)}
            >
              {q.name}
            </Pill>
          ))}
        </div>
      </fieldset>
      {films.some((film) => film.preview === 'video') && (
        <QualityOfFilm quality={quality} onQuality={setQuality} />
      )}
      {/* What it says of steps stands with the film above. */}
      <BeforeItLeaves findings={findings.filter((f) => f.rule !== 'uneven film')} />
      {work ? (
        <Progress {...work} onCancel={work.cancel} />
      ) : (
        <div className="flex gap-1.5">
          <button
            type="button"
            className={`grow ${made ? 'quiet' : 'act'}`}
            onClick={make}
            disabled={count === 0 || lacking.length > 0}
          >
            Make the film
          </button>
          {ofFilm && (
            <button
              type="button"
              className="quiet"
              title="The server makes it: this page may be closed meanwhile"
              onClick={makeOnServer}
            >
              In the background
            </button>
          )}
        </div>
      )}
      {problem && <ProblemNote problem={problem} />}
      {made && !work && <MadeFilm {...made} />}
      <FilmsAtWork {...atWork} />
    </div>
  );
}

/** Pictures a second that make a film of a cycle as long as that is on the screen. */
const rateOfCycle = (pictures: number, { cycle }: Scene): number =>
  Number((pictures / cycle.seconds).toPrecision(6));

interface StepNumberProps {
  label: string;
  value: number;
  low: number;
  high: number;
  onChange(v: number): void;
}

function StepNumber({ label, value, low, high, onChange }: StepNumberProps) {
  return (
    <input
      type="number"
      aria-label={label}
      className="field w-[62px]"
      min={low}
      max={high}
      value={value}
      onChange={(e) => onChange(Math.min(high, Math.max(low, Math.round(Number(e.target.value)) || low)))}
    />
  );
}
