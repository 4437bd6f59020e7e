import { useEffect, useRef, useState } from 'react';
import type { Viewport } from '#stage/viewport.ts';
import { Presenter } from '#web/desks/shared/shots/Presenter.tsx';
import type { DeskController } from '../desk-controller.ts';
import type { Shot } from '../shot-edits.ts';
import { PresentedPictures } from './presented-pictures.ts';

interface Props {
  controller: DeskController;
  viewport: Viewport;
  shots: readonly Shot[];
  /** Place of the one that comes first. */
  first: number;
  onDone(): void;
}

/** Shots one after the other, filling the screen; the next is drawn while one is looked at. */
export function PresentShots({ controller, viewport, shots, first, onDone }: Props) {
  const [at, setAt] = useState(first);
  const [pictures, setPictures] = useState<PresentedPictures | null>(null);
  const [shown, setShown] = useState<{ at: number; picture: ImageBitmap | null } | null>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const shot = shots[at];

  useEffect(() => {
    const made = new PresentedPictures(controller, viewport, shots);
    setPictures(made);
    return () => made.close();
  }, []);

  useEffect(() => {
    if (!pictures) return;
    let isWanted = true;
    // Those beside it are ready before they are asked for.
    void pictures.of(at).then((picture) => {
      if (isWanted) setShown({ at, picture });
      void pictures.ready([at + 1, at - 1]);
    });
    return () => {
      isWanted = false;
    };
  }, [pictures, at]);

  useEffect(() => {
    const element = canvas.current;
    if (!element || !shown?.picture) return;
    element.width = shown.picture.width;
    element.height = shown.picture.height;
    element.getContext('2d')!.drawImage(shown.picture, 0, 0);
  }, [shown]);

  const isComing = shown?.at !== at;
  return (
    <Presenter label="Presenting shots" shots={shots} at={at} onGo={setAt} onDone={onDone}>
      <div className="relative grid min-h-0 flex-1 place-items-center overflow-hidden p-3">
        <canvas
          ref={canvas}
          className="max-h-full max-w-full"
          aria-label={shown ? shots[shown.at].name : 'Being drawn'}
          data-testid="presented"
          data-shot={shown && !isComing ? shots[at].name : undefined}
        />
        {(isComing || !shown) && (
          <p role="status" className="absolute bottom-4 text-sm opacity-70">
            {shot.name} is being drawn …
          </p>
        )}
        {shown && !isComing && !shown.picture && (
          <p role="alert" className="absolute">
            {shot.name} cannot be shown{shot.problem ? `: ${shot.problem}` : '.'}
          </p>
        )}
      </div>
    </Presenter>
  );
}
