import { useEffect, useMemo, useRef, useState } from 'react';
import { fileName } from '#core/language/file-name.ts';
import type { Scene } from '#core/scene/document.ts';
import type { Picture } from '#stage/pictures/picture.ts';
import { offeredWriters, pictureWriters } from '#stage/pictures/registry.ts';
import type { PictureOptions } from '#stage/pictures/render-picture.ts';
import type { PictureWriter } from '#stage/pictures/writer.ts';
import type { Behind } from '#stage/words/ground.ts';
import { usePreflight } from '#web/desks/preflight/use-preflight.ts';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { Progress } from '#web/desks/shared/Progress.tsx';
import { saveFile } from '#web/desks/shared/save-file.ts';
import { sayBytes } from '#web/desks/shared/say-bytes.ts';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { useWork } from '#web/desks/shared/work-state.ts';
import { useDesk, useScene } from '#web/desks/stage/desk-store.ts';
import { BeforeItLeaves } from './BeforeItLeaves.tsx';
import { developApart, developScene } from './darkroom.ts';
import { developShots, openShots } from './develop-shots.ts';
import type { GiveOutProps } from './give-out-props.ts';
import { zipOfLayers } from './layers-zip.ts';
import { aboutPicture } from './picture-about.ts';
import { PictureZip } from './picture-zip.ts';
import { finalQuality, type Quality, QualityFields } from './QualityFields.tsx';
import { type Size, SizeFields, sizeOfStage } from './SizeFields.tsx';

interface Made {
  blob: Blob;
  address: string;
  size: Size;
  /** What it holds: one picture, or several in a zip. */
  holds: 'picture' | 'shots' | 'layers';
  count: number;
  /** What wrote it. */
  writer: PictureWriter;
}

/** A picture of the stage at any size, exactly as composed. */
export function StillTab(props: GiveOutProps) {
  const { controller, viewport } = props;
  const scene = useScene();
  const shots = openShots(useDesk((s) => s.shots));
  const [size, setSize] = useState(sizeOfStage);
  const [transparent, setTransparent] = useState(false);
  const [words, setWords] = useState(true);
  const [apart, setApart] = useState(false);
  const [quality, setQuality] = useState(finalQuality);
  const [seen, setSeen] = useState<Seen | null>(null);
  const enough = useRef(false);
  const [writers, setWriters] = useState<readonly PictureWriter[]>([pictureWriters[0]]);
  const [writer, setWriter] = useState(pictureWriters[0]);
  useEffect(() => void offeredWriters().then(setWriters), []);
  const [made, setMade] = useState<Made | null>(null);
  const { work, problem, run: doWork } = useWork();
  useEffect(() => () => void (made && URL.revokeObjectURL(made.address)), [made]);

  const show = (blob: Blob, holds: Made['holds'] = 'picture', count = 1) =>
    setMade({ blob, address: URL.createObjectURL(blob), size, holds, count, writer });
  const clear = transparent && writer.opacity;
  const asAsked = (picture: Picture): Picture => (words ? picture : { ...picture, words: null });

  const file = useMemo(() => ({ name: 'The picture', bytes: made?.blob.size ?? null }), [made]);
  const findings = usePreflight({ file }, size);

  const about = (of: Scene) => aboutPicture(of, controller.source.run, size, sayQuality(quality));

  const makeAll = () =>
    doWork('Making the pictures', async (progress, signal) => {
      const zip = new PictureZip(writer);
      const aspect = size.width / size.height;
      await developShots(
        props,
        shots.map((s) => ({ ...s, document: { ...s.document, picture: { ...s.document.picture, aspect } } })),
        {
          options: () => ({ ...size, transparent: clear, ...asQuality(quality) }),
          each: 'Picture',
          progress,
          signal,
          take: (picture, shot) => zip.add(fileName(shot.name), asAsked(picture), about(shot.document)),
        },
      );
      show(zip.finish(), 'shots', shots.length);
    });

  const make = () =>
    doWork('Making the picture', async (progress, signal) => {
      // Before anything is waited for: what the last still came to is not shown as what this one is.
      enough.current = false;
      setSeen(null);
      const release = await viewport.hold();
      try {
        const options: PictureOptions = {
          ...size,
          transparent: clear,
          ...asQuality(quality),
          isEnough: () => enough.current,
          preview: (picture, noise) => setSeen({ picture, noise }),
          progress,
          signal,
        };
        const { stage } = viewport;
        if (apart) {
          const layers = await developApart(stage, controller.source, scene, scene.step, options);
          return show(await zipOfLayers(layers, writer, about(scene)), 'layers', layers.layers.length);
        }
        const picture = await developScene(stage, controller.source, scene, scene.step, options);
        show(await writer.write(asAsked(picture), about(scene)));
      } finally {
        release();
      }
    });

  return (
    <div className="flex flex-col gap-4">
      <SizeFields size={size} onSize={setSize} />
      <label className="flex flex-col gap-1">
        <span className="head">Format</span>
        <select
          className="field h-8"
          value={writer.id}
          onChange={(e) => setWriter(writers.find((w) => w.id === e.target.value) ?? writer)}
        >
          {writers.map(({ id, name, purpose }) => (
            <option key={id} value={id}>
              {name}: {purpose}
            </option>
          ))}
        </select>
      </label>
      {writer.opacity ? (
        <Tick label="Transparent background" checked={transparent} onChange={(on) => setTransparent(on)} />
      ) : (
        <p className="text-soft">{writer.name} keeps no transparent background.</p>
      )}
      {!apart && <Tick label="Legends, time and words" checked={words} onChange={(on) => setWords(on)} />}
      <Tick label="In layers, to be put together" checked={apart} onChange={(on) => setApart(on)} />
      {apart && (
        <p className="text-soft">
          A zip: the picture without words, colours, shadow and words as {writer.name}; depth, normals and
          numbers of the bodies as OpenEXR of 32 bits.
        </p>
      )}
      <QualityFields quality={quality} onQuality={setQuality} />
      <BeforeItLeaves findings={findings} />
      {work ? (
        <>
          <Progress {...work} onCancel={work.cancel} />
          {seen && <Improving {...seen} onEnough={() => (enough.current = true)} />}
        </>
      ) : (
        <div className="flex flex-col gap-2">
          <button type="button" className={made ? 'quiet' : 'act'} onClick={make}>
            {apart ? 'Make the layers' : 'Make the picture'}
          </button>
          {shots.length > 0 && !apart && (
            <button type="button" className="quiet" onClick={makeAll}>
              {shots.length === 1 ? 'Make the one shot' : `Make all ${shots.length} shots`}, as a zip
            </button>
          )}
        </div>
      )}
      {problem && <ProblemNote problem={problem} />}
      {made && !work && (
        <figure>
          {made.holds === 'picture' && isShown(made.blob) && (
            <img
              src={made.address}
              alt="The finished still"
              className="w-full rounded-lg border border-rule bg-[repeating-conic-gradient(var(--rule)_0_25%,var(--sheet)_0_50%)] bg-[length:16px_16px]"
            />
          )}
          <figcaption className="mt-1.5 flex items-center justify-between text-soft">
            {made.count > 1 && `${made.count} × `}
            {made.size.width} × {made.size.height}, {sayBytes(made.blob.size)}
            <button
              type="button"
              className="act"
              onClick={() =>
                saveFile(
                  made.blob,
                  made.holds === 'picture'
                    ? `${fileName(scene.name)}.${made.writer.ending}`
                    : `${fileName(scene.name)}-${made.holds}.zip`,
                )
              }
            >
              Save {made.holds === 'picture' ? made.writer.name : 'zip'}
            </button>
          </figcaption>
        </figure>
      )}
    </div>
  );
}

/** What options of a picture say of its quality. */
const asQuality = ({ passes, noise }: Quality) => ({ passes, ...(noise === null ? {} : { noise }) });

const sayQuality = ({ passes, noise }: Quality): string =>
  noise === null ? `${passes} passes` : `noise below ${noise} of 255 levels`;

interface Seen {
  picture: Behind;
  noise: number | null;
}

/** The picture as it is by now, and a way to be content with it. */
function Improving({ picture, noise, onEnough }: Seen & { onEnough(): void }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const { width, height, pixels } = picture;
    canvas.current!.getContext('2d')!.putImageData(new ImageData(pixels, width, height), 0, 0);
  }, [picture]);
  return (
    <div className="flex flex-col gap-2">
      <canvas
        ref={canvas}
        width={picture.width}
        height={picture.height}
        aria-label="The picture by now"
        className="w-full rounded-lg border border-rule"
      />
      <div className="flex items-center justify-between text-soft">
        {noise === null ? 'Measuring its noise' : `Noise ${noise.toPrecision(2)} of 255 levels`}
        <button type="button" className="quiet h-8" onClick={onEnough}>
          Keep it as it is
        </button>
      </div>
    </div>
  );
}

/** Pictures a browser cannot show are saved unseen. */
const isShown = ({ type }: Blob): boolean => !['image/tiff', 'image/x-exr'].includes(type);
