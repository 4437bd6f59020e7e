import { useEffect, useState } from 'react';
import { pictureWriters } from '#stage/pictures/registry.ts';
import { FINAL_PASSES, PROOF_PASSES } from '#stage/pictures/render-picture.ts';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { Progress } from '#web/desks/shared/Progress.tsx';
import { fileName, saveFile } from '#web/desks/shared/save-file.ts';
import { sayBytes } from '#web/desks/shared/say-bytes.ts';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { useWork } from '#web/desks/shared/work-state.ts';
import { useDesk, useScene } from '#web/desks/stage/desk-store.ts';
import { developScene } from './darkroom.ts';
import { developShots, openShots } from './develop-shots.ts';
import type { GiveOutProps } from './give-out-props.ts';
import { PictureZip } from './picture-zip.ts';
import { type Size, SizeFields, sizeOfStage } from './SizeFields.tsx';

interface Made {
  blob: Blob;
  address: string;
  size: Size;
  /** How many pictures it holds, in a zip. */
  shots: number | null;
}

const [writer] = pictureWriters;

/** A picture of the stage at any size, exactly as composed. */
export function StillTab(props: GiveOutProps) {
  const { controller, viewport } = props;
  const scene = useScene();
  const shots = openShots(useDesk((s) => s.shots));
  const [size, setSize] = useState(sizeOfStage);
  const [transparent, setTransparent] = useState(false);
  const [fine, setFine] = useState(true);
  const [made, setMade] = useState<Made | null>(null);
  const { work, problem, run: doWork } = useWork();
  useEffect(() => () => void (made && URL.revokeObjectURL(made.address)), [made]);

  const passes = fine ? FINAL_PASSES : PROOF_PASSES;
  const show = (blob: Blob, shots: number | null) =>
    setMade({ blob, address: URL.createObjectURL(blob), size, shots });

  const makeAll = () =>
    doWork('Making the pictures', async (progress, signal) => {
      const zip = new PictureZip();
      const aspect = size.width / size.height;
      await developShots(
        props,
        shots.map((s) => ({ ...s, document: { ...s.document, picture: { ...s.document.picture, aspect } } })),
        {
          options: () => ({ ...size, transparent, passes }),
          each: 'Picture',
          progress,
          signal,
          take: (picture, shot) => zip.add(fileName(shot.name), picture),
        },
      );
      show(zip.finish(), shots.length);
    });

  const make = () =>
    doWork('Making the picture', async (progress, signal) => {
      const release = await viewport.hold();
      try {
        const picture = await developScene(viewport.stage, controller.source, scene, scene.step, {
          ...size,
          transparent,
          passes,
          progress,
          signal,
        });
        show(await writer.write(picture), null);
      } finally {
        release();
      }
    });

  return (
    <div className="flex flex-col gap-4">
      <SizeFields size={size} onSize={setSize} />
      <Tick label="Transparent background" checked={transparent} onChange={(on) => setTransparent(on)} />
      <Tick label={`Finest light, ${FINAL_PASSES} passes`} checked={fine} onChange={(on) => setFine(on)} />
      {work ? (
        <Progress {...work} onCancel={work.cancel} />
      ) : (
        <div className="flex flex-col gap-2">
          <button type="button" className={made ? 'quiet' : 'act'} onClick={make}>
            Make the picture
          </button>
          {shots.length > 0 && (
            <button type="button" className="quiet" onClick={makeAll}>
              {shots.length === 1 ? 'Make the one shot' : `Make all ${shots.length} shots`}, as a zip
            </button>
          )}
        </div>
      )}
      {problem && <ProblemNote problem={problem} />}
      {made && !work && (
        <figure>
          {made.shots === null && (
            <img
              src={made.address}
              alt="The finished still"
              className="w-full rounded-lg border border-rule bg-[repeating-conic-gradient(var(--rule)_0_25%,var(--sheet)_0_50%)] bg-[length:16px_16px]"
            />
          )}
          <figcaption className="mt-1.5 flex items-center justify-between text-soft">
            {made.shots !== null && `${made.shots} × `}
            {made.size.width} × {made.size.height}, {sayBytes(made.blob.size)}
            <button
              type="button"
              className="act"
              onClick={() =>
                saveFile(
                  made.blob,
                  made.shots === null
                    ? `${fileName(scene.name)}.${writer.ending}`
                    : `${fileName(scene.name)}-shots.zip`,
                )
              }
            >
              Save {made.shots === null ? writer.name : 'zip'}
            </button>
          </figcaption>
        </figure>
      )}
    </div>
  );
}
