import { Send } from 'lucide-react';
import { useMemo, useState } from 'react';
import { drawnScenes } from '#core/beside/drawn-scenes.ts';
import { withSideEdit } from '#core/beside/side-edits.ts';
import { fileName } from '#core/language/file-name.ts';
import { FilmInMemory, type FilmWriter, sizeInGrain } from '#stage/films/film-writer.ts';
import { offeredFilms } from '#stage/films/registry.ts';
import { FINAL_PASSES, PROOF_PASSES } from '#stage/pictures/render-picture.ts';
import { PassesPills } from '#web/desks/give-out/QualityFields.tsx';
import { sizePresets } from '#web/desks/give-out/SizeFields.tsx';
import { TogetherBeforeTheyLeave } from '#web/desks/preflight/TogetherBeforeTheyLeave.tsx';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { Progress } from '#web/desks/shared/Progress.tsx';
import { saveFile } from '#web/desks/shared/save-file.ts';
import { useWork } from '#web/desks/shared/work-state.ts';
import { Chooser } from '#web/desks/stage/Chooser.tsx';
import { chosenPane, scaledPanes, sideNow, useBeside, useSide } from './beside-store.ts';
import { developSide } from './develop-side.ts';
import type { SideController } from './side-controller.ts';

const sizes = sizePresets.slice(0, 3);
const rates = [2, 5, 10, 24];

/** What is seen side by side as one picture, or over the steps as a film. */
export function GiveSide({ controller }: { controller: SideController }) {
  const side = useSide();
  const { name, show } = side;
  const [size, setSize] = useState(sizes[1]);
  const [passes, setPasses] = useState(FINAL_PASSES);
  const [rate, setRate] = useState(5);
  const { work, problem, run } = useWork();
  const steps = useBeside((s) => {
    const pane = chosenPane(s);
    return pane ? (s.runs.get(pane.run)?.steps.length ?? 0) : 0;
  });
  const runs = useBeside((s) => s.runs);
  const onShow = useBeside((s) => s.onShow);
  const shown = useMemo(() => {
    const panes = scaledPanes(side, runs, onShow);
    const { scenes } = drawnScenes(panes, false);
    return panes.map(({ id, title, scene: own, run: of }) => {
      const scene = scenes.get(id) ?? own;
      return { id, name: title, scene, run: of, step: scene.step, spreads: onShow[id]?.spreads ?? null };
    });
  }, [side, runs, onShow]);
  const picture = () =>
    run('Drawing', async (progress, signal) => {
      const stage = controller.newStage();
      try {
        const canvas = await developSide(controller, stage, sideNow(), size, { passes, signal, progress });
        saveFile(await blobOf(canvas), `${fileName(name)}.png`);
      } finally {
        stage.dispose();
      }
    });
  const film = () =>
    run('Drawing', async (progress, signal) => {
      const [writer] = await offeredFilms(size);
      if (!writer) throw new Error('This browser writes no films. Use another one, or give out pictures.');
      const told = (n: number, of: number) => (done: number) =>
        progress((n + done) / of, `Picture ${n + 1} of ${of}`);
      saveFile(
        await filmOf(controller, writer, {
          size,
          passes: Math.min(passes, PROOF_PASSES),
          rate,
          signal,
          told,
        }),
        `${fileName(name)}.${writer.ending}`,
      );
    });
  return (
    <Chooser
      word={
        <>
          <Send size={15} /> Give out
        </>
      }
      label="Give out"
      look="act"
      side="bottom"
      wide
    >
      <div className="flex flex-col gap-3">
        <div className="flex flex-wrap gap-1.5">
          {sizes.map((one) => (
            <Pill
              key={one.name}
              on={one === size}
              title={`${one.width} × ${one.height}`}
              onClick={() => setSize(one)}
            >
              {one.name}
            </Pill>
          ))}
        </div>
        <div className="flex flex-wrap gap-1.5">
          <PassesPills passes={passes} onPasses={setPasses} />
        </div>
        <TogetherBeforeTheyLeave shown={shown} />
        {show.as === 'blink' && (
          <p className="text-soft">What blinks stands beside each other in a picture.</p>
        )}
        {work ? (
          <Progress label={work.label} done={work.done} remaining={work.remaining} onCancel={work.cancel} />
        ) : (
          <div className="flex flex-wrap items-center gap-2">
            <button type="button" className="act" onClick={picture}>
              Save picture
            </button>
            {steps > 1 && (
              <>
                <button type="button" className="quiet" onClick={film}>
                  Save film of {steps} steps
                </button>
                <label className="flex items-center gap-1.5 text-sm">
                  <select
                    className="field"
                    aria-label="Steps a second"
                    value={rate}
                    onChange={(e) => setRate(Number(e.target.value))}
                  >
                    {rates.map((one) => (
                      <option key={one}>{one}</option>
                    ))}
                  </select>
                  a second
                </label>
              </>
            )}
          </div>
        )}
        {problem && <ProblemNote problem={problem} />}
      </div>
    </Chooser>
  );
}

const blobOf = (canvas: HTMLCanvasElement): Promise<Blob> =>
  new Promise((resolve, reject) =>
    canvas.toBlob(
      (blob) => (blob ? resolve(blob) : reject(new Error('The picture is too large.'))),
      'image/png',
    ),
  );

interface FilmOptions {
  size: { width: number; height: number };
  passes: number;
  rate: number;
  signal: AbortSignal;
  told(n: number, of: number): (done: number) => void;
}

/** The panes at every step of the chosen one, as they follow its time. */
async function filmOf(
  controller: SideController,
  writer: FilmWriter,
  { size: asked, passes, rate, signal, told }: FilmOptions,
): Promise<Blob> {
  const size = sizeInGrain(writer, asked);
  const { runs } = useBeside.getState();
  const pane = chosenPane(useBeside.getState())!;
  const side = sideNow();
  const count = runs.get(pane.run)!.steps.length;
  const memory = new FilmInMemory();
  const encoder = await writer.begin({ size, rate, count, quality: 'good', loop: false }, memory.sink);
  const stage = controller.newStage();
  try {
    for (let step = 0; step < count; step++) {
      const at = withSideEdit(side, { type: 'side.step', id: pane.id, step }, runs);
      const canvas = await developSide(controller, stage, at, size, {
        passes,
        signal,
        progress: told(step, count),
      });
      const { data } = canvas.getContext('2d')!.getImageData(0, 0, size.width, size.height);
      await encoder.add({ ...size, data });
    }
    await encoder.finish();
    return memory.blob(writer.type);
  } catch (error) {
    await encoder.cancel();
    throw error;
  } finally {
    stage.dispose();
  }
}
