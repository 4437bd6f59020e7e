import { useEffect, useMemo, useState } from 'react';
import { fileName } from '#core/language/file-name.ts';
import { sayStep } from '#core/motion/step-text.ts';
import { sceneCaption } from '#core/scene/layer-sentence.ts';
import { ask } from '#engine/server-requests.ts';
import { png } from '#stage/pictures/png.ts';
import { PROOF_PASSES } from '#stage/pictures/render-picture.ts';
import { TogetherBeforeTheyLeave } from '#web/desks/preflight/TogetherBeforeTheyLeave.tsx';
import { dataAddress } from '#web/desks/shared/data-address.ts';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { Progress } from '#web/desks/shared/Progress.tsx';
import { saveFile } from '#web/desks/shared/save-file.ts';
import { sayBytes } from '#web/desks/shared/say-bytes.ts';
import { useWork } from '#web/desks/shared/work-state.ts';
import { useDesk, useRun, useScene } from '#web/desks/stage/desk-store.ts';
import { developShots, type OpenShot, openShots, stepOf } from './develop-shots.ts';
import type { GiveOutProps } from './give-out-props.ts';
import { type Figure, pageDocument } from './page-document.ts';

const WIDTH = 1600;

/** A page of shots with captions, in one file that opens anywhere. */
export function PageTab(props: GiveOutProps) {
  const scene = useScene();
  const run = useRun();
  const kept = useDesk((s) => s.shots);
  const shots = openShots(kept);
  const stageAspect = useDesk((s) => s.stageAspect);
  const [title, setTitle] = useState(scene.name);
  const [intro, setIntro] = useState('');
  const [left, setLeft] = useState<Set<string>>(new Set());
  const [made, setMade] = useState<{ blob: Blob; address: string } | null>(null);
  const { work, problem, run: doWork } = useWork();
  const chosen = shots.filter((s) => !left.has(s.id));
  const shown = useMemo(
    () =>
      openShots(kept)
        .filter((s) => !left.has(s.id))
        .map((s) => ({
          id: s.id,
          name: s.name,
          scene: s.document,
          run,
          step: stepOf(s, run.steps.length),
          spreads: null,
        })),
    [kept, left, run],
  );
  useEffect(() => () => void (made && URL.revokeObjectURL(made.address)), [made]);

  const ownCaption = (shot: OpenShot) => {
    const { document } = shot;
    const step = stepOf(shot, run.steps.length);
    const time = run.steps.length > 1 ? sayStep(run.steps[step], run.timeUnit, document.stamp) : null;
    return sceneCaption(document, run, time);
  };
  const setCaption = (shot: OpenShot, caption: string) => {
    const kept = caption.trim() === '' || caption === ownCaption(shot) ? null : caption;
    useDesk.setState((s) => ({
      shots: s.shots.map((x) => (x.id === shot.id ? { ...x, caption: kept } : x)),
    }));
    void ask(`/api/shots/${shot.id}`, { method: 'PUT', json: { caption: kept } }).catch(() =>
      useDesk.setState({ trouble: 'The caption was not saved: the server does not answer.' }),
    );
  };

  const make = () =>
    doWork('Making the page', async (progress, signal) => {
      const figures: Figure[] = [];
      const sizeOf = ({ document }: OpenShot) => ({
        width: WIDTH,
        height: Math.round(WIDTH / (document.picture.aspect ?? stageAspect)),
      });
      await developShots(props, chosen, {
        options: (shot) => ({
          ...sizeOf(shot),
          transparent: false,
          passes: Math.min(PROOF_PASSES, props.viewport.mostPasses),
        }),
        each: 'Figure',
        progress,
        signal,
        take: async (picture, shot) => {
          figures.push({
            picture: await dataAddress(await png.write(picture)),
            caption: shot.caption ?? ownCaption(shot),
            ...sizeOf(shot),
          });
        },
      });
      const blob = new Blob([pageDocument(title, intro, figures, run)], { type: 'text/html' });
      setMade({ blob, address: URL.createObjectURL(blob) });
    });

  if (shots.length === 0) {
    return (
      <p className="text-soft">
        A page is made of shots. Compose a view and keep it with “Keep shot” below the stage; then it can be
        chosen here.
      </p>
    );
  }
  return (
    <div className="flex flex-col gap-4">
      <label>
        <span className="head block">Title</span>
        <input className="field mt-1 w-full" value={title} onChange={(e) => setTitle(e.target.value)} />
      </label>
      <label>
        <span className="head block">Opening words</span>
        <textarea
          className="field mt-1 h-16 w-full py-1"
          value={intro}
          placeholder="optional"
          onChange={(e) => setIntro(e.target.value)}
        />
      </label>
      <fieldset>
        <legend className="head mb-1.5">Figures</legend>
        <ul className="flex flex-col gap-3">
          {shots.map((kept) => (
            <li key={kept.id} className="rounded-lg border border-rule bg-sheet p-2">
              <label className="flex items-center gap-2.5">
                <input
                  type="checkbox"
                  className="size-4 accent-accent"
                  checked={!left.has(kept.id)}
                  onChange={(e) => {
                    const next = new Set(left);
                    if (e.target.checked) next.delete(kept.id);
                    else next.add(kept.id);
                    setLeft(next);
                  }}
                />
                {kept.thumbnail && (
                  <img src={kept.thumbnail} alt="" className="h-10 rounded border border-rule" />
                )}
                <span className="min-w-0 truncate font-medium">{kept.name}</span>
              </label>
              {!left.has(kept.id) && (
                <textarea
                  key={kept.caption ?? 'own'}
                  aria-label={`Caption of ${kept.name}`}
                  className="field mt-2 h-24 w-full py-1 font-book text-[15px]"
                  defaultValue={kept.caption ?? ownCaption(kept)}
                  onBlur={(e) => setCaption(kept, e.target.value)}
                />
              )}
            </li>
          ))}
        </ul>
      </fieldset>
      <TogetherBeforeTheyLeave shown={shown} />
      {work ? (
        <Progress {...work} onCancel={work.cancel} />
      ) : (
        <button
          type="button"
          className={made ? 'quiet' : 'act'}
          onClick={make}
          disabled={chosen.length === 0}
        >
          Make the page
        </button>
      )}
      {problem && <ProblemNote problem={problem} />}
      {made && !work && (
        <figure>
          <iframe
            src={made.address}
            title="The finished page"
            sandbox=""
            className="h-72 w-full rounded-lg border border-rule bg-white"
          />
          <figcaption className="mt-1.5 flex items-center justify-between text-soft">
            One file, {sayBytes(made.blob.size)}
            <button
              type="button"
              className="act"
              onClick={() => saveFile(made.blob, `${fileName(title)}.html`)}
            >
              Save page
            </button>
          </figcaption>
        </figure>
      )}
    </div>
  );
}
