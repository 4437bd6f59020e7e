import { useEffect, useState } from 'react';
import { pictureWriters } from '#stage/pictures/registry.ts';
import { FINAL_PASSES, PROOF_PASSES } from '#stage/pictures/render-picture.ts';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { Progress } from '#web/desks/shared/Progress.tsx';
import { sayBytes } from '#web/desks/shared/say-bytes.ts';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { useScene } from '#web/desks/stage/desk-store.ts';
import { developScene } from './darkroom.ts';
import type { GiveOutProps } from './give-out-props.ts';
import { type Size, SizeFields, sizeOfStage } from './SizeFields.tsx';
import { fileName, saveFile, useWork } from './work-state.ts';

interface Made {
  blob: Blob;
  address: string;
  size: Size;
}

const [writer] = pictureWriters;

/** A picture of the stage at any size, exactly as composed. */
export function StillTab({ controller, viewport }: GiveOutProps) {
  const scene = useScene();
  const [size, setSize] = useState(sizeOfStage);
  const [transparent, setTransparent] = useState(false);
  const [fine, setFine] = useState(true);
  const [made, setMade] = useState<Made | null>(null);
  const { work, problem, run: doWork } = useWork();
  useEffect(() => () => void (made && URL.revokeObjectURL(made.address)), [made]);

  const make = () =>
    doWork('Making the picture', async (progress, signal) => {
      const release = await viewport.hold();
      try {
        const passes = fine ? FINAL_PASSES : PROOF_PASSES;
        const picture = await developScene(viewport.stage, controller.source, scene, scene.step, {
          ...size,
          transparent,
          passes,
          progress,
          signal,
        });
        const blob = await writer.write(picture);
        setMade({ blob, address: URL.createObjectURL(blob), size });
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
        <button type="button" className={made ? 'quiet' : 'act'} onClick={make}>
          Make the picture
        </button>
      )}
      {problem && <ProblemNote problem={problem} />}
      {made && !work && (
        <figure>
          <img
            src={made.address}
            alt="The finished still"
            className="w-full rounded-lg border border-rule bg-[repeating-conic-gradient(var(--rule)_0_25%,var(--sheet)_0_50%)] bg-[length:16px_16px]"
          />
          <figcaption className="mt-1.5 flex items-center justify-between text-soft">
            {made.size.width} × {made.size.height}, {sayBytes(made.blob.size)}
            <button
              type="button"
              className="act"
              onClick={() => saveFile(made.blob, `${fileName(scene.name)}.${writer.ending}`)}
            >
              Save {writer.name}
            </button>
          </figcaption>
        </figure>
      )}
    </div>
  );
}
