import { ChevronLeft, ChevronRight, NotebookText, X } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { Viewport } from '#stage/viewport.ts';
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

const onward = ['ArrowRight', 'ArrowDown', 'PageDown', ' ', 'Enter'];
const back = ['ArrowLeft', 'ArrowUp', 'PageUp', 'Backspace'];

/** Shots one after the other, filling the screen; the next is drawn while one is looked at. */
export function PresentShots({ controller, viewport, shots, first, onDone }: Props) {
  const [at, setAt] = useState(first);
  const [notes, setNotes] = useState(false);
  const [pictures, setPictures] = useState<PresentedPictures | null>(null);
  const [shown, setShown] = useState<{ at: number; picture: ImageBitmap | null } | null>(null);
  const room = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const shot = shots[at];
  const go = (to: number): void => setAt(Math.max(0, Math.min(shots.length - 1, to)));

  useEffect(() => {
    const element = room.current!;
    // Without it the page shows them all the same.
    void element.requestFullscreen?.().catch(() => undefined);
    element.focus();
    const made = new PresentedPictures(controller, viewport, shots);
    setPictures(made);
    const left = (): void => {
      if (!document.fullscreenElement) onDone();
    };
    document.addEventListener('fullscreenchange', left);
    return () => {
      document.removeEventListener('fullscreenchange', left);
      if (document.fullscreenElement) void document.exitFullscreen().catch(() => undefined);
      made.close();
    };
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

  const onKey = (event: KeyboardEvent): void => {
    if (onward.includes(event.key)) go(at + 1);
    else if (back.includes(event.key)) go(at - 1);
    else if (event.key === 'Home') go(0);
    else if (event.key === 'End') go(shots.length - 1);
    else if (event.key === 'n') setNotes((on) => !on);
    else if (event.key === 'Escape') onDone();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  useEffect(() => {
    // Whatever has the focus: nothing else is on the screen.
    addEventListener('keydown', onKey, true);
    return () => removeEventListener('keydown', onKey, true);
  });
  const isComing = shown?.at !== at;
  return (
    <div
      ref={room}
      role="dialog"
      aria-modal="true"
      aria-label="Presenting shots"
      tabIndex={-1}
      className="fixed inset-0 z-[60] flex flex-col bg-[#14110f] text-[#f3efe8] outline-none"
    >
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
      {notes && (
        <section aria-label="Notes" className="max-h-40 overflow-y-auto border-t border-white/15 px-6 py-3">
          <p className="max-w-[80ch] whitespace-pre-wrap">{shot.notes || 'No notes on this one.'}</p>
        </section>
      )}
      <footer className="flex h-11 shrink-0 items-center gap-2 px-4 text-sm">
        <button
          type="button"
          className="p-1.5"
          aria-label="The one before"
          disabled={at === 0}
          onClick={() => go(at - 1)}
        >
          <ChevronLeft size={18} />
        </button>
        <button
          type="button"
          className="p-1.5"
          aria-label="The next one"
          disabled={at === shots.length - 1}
          onClick={() => go(at + 1)}
        >
          <ChevronRight size={18} />
        </button>
        <span className="tabular-nums opacity-70">
          {at + 1} of {shots.length}
        </span>
        <span className="min-w-0 flex-1 truncate text-center font-medium">{shot.name}</span>
        <button
          type="button"
          className="flex items-center gap-1.5 p-1.5"
          aria-pressed={notes}
          title="Notes (n)"
          onClick={() => setNotes(!notes)}
        >
          <NotebookText size={16} /> Notes
        </button>
        <button type="button" className="p-1.5" aria-label="End" title="End (Escape)" onClick={onDone}>
          <X size={18} />
        </button>
      </footer>
    </div>
  );
}
