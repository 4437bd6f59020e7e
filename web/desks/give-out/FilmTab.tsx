import { useEffect, useState } from 'react';
import { secondsIn } from '#core/model/units.ts';
import { cyclePhases } from '#core/motion/cycle-pictures.ts';
import { exposedScenes } from '#core/motion/exposure.ts';
import type { FilmQuality } from '#core/motion/film-quality.ts';
import { type PictureAt, sceneOfPicture } from '#core/motion/picture-at.ts';
import { stepRange } from '#core/motion/play-clock.ts';
import { filmPictures } from '#core/motion/reel-facts.ts';
import { hasFilm } from '#core/motion/scene-at.ts';
import { pluralKind, sayStep } from '#core/motion/step-text.ts';
import { type TextTrack, textTracks, trackOfFilm } from '#core/motion/web-vtt.ts';
import type { Scene } from '#core/scene/document.ts';
import { playsInCycle } from '#core/scene/plays-in-cycle.ts';
import { stepsOfStretch } from '#core/scene/things/stretch.ts';
import { FilmInMemory, type FilmMaking, type FilmWriter, sizeInGrain } from '#stage/films/film-writer.ts';
import { filmWriters, offeredFilms } from '#stage/films/registry.ts';
import { developed } from '#stage/pictures/develop.ts';
import type { Picture } from '#stage/pictures/picture.ts';
import { FINAL_PASSES, PROOF_PASSES } from '#stage/pictures/render-picture.ts';
import { FilmFacts } from '#web/desks/reel/FilmFacts.tsx';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { Progress } from '#web/desks/shared/Progress.tsx';
import { fileName, saveFile } from '#web/desks/shared/save-file.ts';
import { sayBytes } from '#web/desks/shared/say-bytes.ts';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { useWork } from '#web/desks/shared/work-state.ts';
import { NumberField } from '#web/desks/stage/Chooser.tsx';
import { edit, keptSceneNow, useDesk, useKeptScene, useRun } from '#web/desks/stage/desk-store.ts';
import { playsNow } from '#web/desks/stage/play-track.ts';
import { developScene } from './darkroom.ts';
import { FilmsAtWork, useFilmsAtWork } from './FilmsAtWork.tsx';
import type { GiveOutProps } from './give-out-props.ts';
import { PictureZip } from './picture-zip.ts';
import { QualityOfFilm } from './QualityOfFilm.tsx';
import { type Size, SizeFields, sizeOfStage } from './SizeFields.tsx';

interface Made {
  blob: Blob;
  address: string;
  ending: string;
  preview: FilmWriter['preview'] | 'none';
  said: string;
  /** What goes beside it. */
  tracks: { track: TextTrack; text: string }[];
}

/** Pictures one by one instead of a film. */
const ONE_BY_ONE = 'pictures';

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
  const [writers, setWriters] = useState<readonly FilmWriter[]>([filmWriters[0]]);
  useEffect(() => void offeredFilms({ width: 1280, height: 720 }).then(setWriters), []);
  const [format, setFormat] = useState<FilmWriter | typeof ONE_BY_ONE>(filmWriters[0]);
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
  const [made, setMade] = useState<Made | null>(null);
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
  const chooseCycle = () => {
    setOver('cycle');
    setRate(rateOfCycle(pictures, scene));
  };
  useEffect(() => () => void (made && URL.revokeObjectURL(made.address)), [made]);

  const make = () =>
    doWork('Making the film', async (progress, signal) => {
      useDesk.setState({ playing: false });
      const writer = format === ONE_BY_ONE ? null : format;
      const of = writer ? sizeInGrain(writer, size) : size;
      if (writer && !(await writer.supported(of))) {
        throw new Error(
          `This browser cannot write ${writer.name} at ${of.width} × ${of.height}. Choose another kind or a smaller size.`,
        );
      }
      const document = keptSceneNow();
      const release = await viewport.hold();
      try {
        const taker = await (writer
          ? filmTaker(writer, { size: of, rate: pace, count, quality, loop: document.reel.loop })
          : pictureTaker());
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
          await taker.add(picture);
        }
        const blob = await taker.finish();
        const said = `${count} pictures, ${duration.toFixed(1)} s, ${of.width} × ${of.height}, ${sayBytes(blob.size)}`;
        setMade({
          blob,
          address: URL.createObjectURL(blob),
          ending: writer?.ending ?? 'zip',
          preview: writer?.preview ?? 'none',
          said,
          tracks: ofFilm ? tracksOf(document) : [],
        });
      } finally {
        release();
      }
    });

  const makeOnServer = (writer: FilmWriter) =>
    atWork.act('POST', `/api/runs/${runId}/films`, {
      scene: keptSceneNow(),
      ...sizeInGrain(writer, size),
      passes,
      films: [{ format: writer.id, quality }],
    });

  return (
    <div className="flex flex-col gap-4">
      <fieldset>
        <legend className="head mb-1.5">Kind</legend>
        <div className="flex flex-wrap gap-1">
          {writers.map((w) => (
            <Pill key={w.id} on={w === format} title={w.purpose} onClick={() => setFormat(w)}>
              {w.name}
            </Pill>
          ))}
          <Pill on={format === ONE_BY_ONE} onClick={() => setFormat(ONE_BY_ONE)}>
            PNGs in a zip
          </Pill>
        </div>
      </fieldset>
      <SizeFields size={size} onSize={setSize} largest={LARGEST_FILM} />
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
      {format !== ONE_BY_ONE && format.preview === 'video' && (
        <QualityOfFilm quality={quality} onQuality={setQuality} />
      )}
      {work ? (
        <Progress {...work} onCancel={work.cancel} />
      ) : (
        <div className="flex gap-1.5">
          <button
            type="button"
            className={`grow ${made ? 'quiet' : 'act'}`}
            onClick={make}
            disabled={count === 0}
          >
            Make the film
          </button>
          {ofFilm && format !== ONE_BY_ONE && (
            <button
              type="button"
              className="quiet"
              title="The server makes it: this page may be closed meanwhile"
              onClick={() => makeOnServer(format)}
            >
              In the background
            </button>
          )}
        </div>
      )}
      {problem && <ProblemNote problem={problem} />}
      {made && !work && (
        <figure>
          {made.preview === 'video' && (
            <video
              src={made.address}
              controls
              loop
              autoPlay
              muted
              className="w-full rounded-lg border border-rule"
              data-testid="film"
            />
          )}
          {made.preview === 'image' && (
            <img
              src={made.address}
              alt="The finished film"
              className="w-full rounded-lg border border-rule"
              data-testid="film"
            />
          )}
          <figcaption className="mt-1.5 flex items-center justify-between gap-2 text-xs text-soft">
            {made.said}
            <span className="flex shrink-0 gap-1.5">
              {made.tracks.map(({ track, text }) => (
                <button
                  key={track}
                  type="button"
                  className="quiet text-sm"
                  title="A WebVTT file to go beside the film"
                  onClick={() =>
                    saveFile(new Blob([text], { type: 'text/vtt' }), `${fileName(scene.name)}.${track}.vtt`)
                  }
                >
                  Save {track}
                </button>
              ))}
              <button
                type="button"
                className="act text-sm"
                onClick={() => saveFile(made.blob, `${fileName(scene.name)}.${made.ending}`)}
              >
                Save
              </button>
            </span>
          </figcaption>
        </figure>
      )}
      <FilmsAtWork {...atWork} />
    </div>
  );
}

const tracksOf = (scene: Scene): Made['tracks'] =>
  textTracks.flatMap((track) => {
    const text = trackOfFilm(scene, track);
    return text ? [{ track, text }] : [];
  });

/** Pictures a second that make a film of a cycle as long as that is on the screen. */
const rateOfCycle = (pictures: number, { cycle }: Scene): number =>
  Number((pictures / cycle.seconds).toPrecision(6));

/** Takes pictures one after the other and gives what they become. */
interface PictureTaker {
  add(picture: Picture): Promise<void>;
  finish(): Promise<Blob>;
}

async function filmTaker(writer: FilmWriter, making: FilmMaking): Promise<PictureTaker> {
  const memory = new FilmInMemory();
  const { size } = making;
  const encoder = await writer.begin(making, memory.sink);
  return {
    async add(picture) {
      const shown = await developed(picture);
      const { width, height } = size;
      await encoder.add({ ...size, data: shown.getContext('2d')!.getImageData(0, 0, width, height).data });
    },
    async finish() {
      await encoder.finish();
      return memory.blob(writer.type);
    },
  };
}

function pictureTaker(): PictureTaker {
  const zip = new PictureZip();
  let n = 0;
  return {
    add: (picture) => zip.add(`picture-${String(++n).padStart(4, '0')}`, picture),
    finish: async () => zip.finish(),
  };
}

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
