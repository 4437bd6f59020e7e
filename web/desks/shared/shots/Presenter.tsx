import { ChevronLeft, ChevronRight, NotebookText, X } from 'lucide-react';
import { type ReactNode, useEffect, useRef, useState } from 'react';

interface Props {
  /** What is presented, for those who do not see it. */
  label: string;
  shots: readonly { name: string; notes: string }[];
  at: number;
  onGo(to: number): void;
  onDone(): void;
  /** What fills the screen. */
  children: ReactNode;
}

const onward = ['ArrowRight', 'ArrowDown', 'PageDown', ' ', 'Enter'];
const back = ['ArrowLeft', 'ArrowUp', 'PageUp', 'Backspace'];

/** A screen that is filled by one shot after the other, stepped through by keys, with their notes. */
export function Presenter({ label, shots, at, onGo, onDone, children }: Props) {
  const [notes, setNotes] = useState(false);
  const room = useRef<HTMLDivElement>(null);
  const go = (to: number): void => onGo(Math.max(0, Math.min(shots.length - 1, to)));

  useEffect(() => {
    const element = room.current!;
    // Without it the page shows them all the same.
    void element.requestFullscreen?.().catch(() => undefined);
    element.focus();
    const left = (): void => {
      if (!document.fullscreenElement) onDone();
    };
    document.addEventListener('fullscreenchange', left);
    return () => {
      document.removeEventListener('fullscreenchange', left);
      if (document.fullscreenElement) void document.exitFullscreen().catch(() => undefined);
    };
  }, []);

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
  return (
    <div
      ref={room}
      role="dialog"
      aria-modal="true"
      aria-label={label}
      tabIndex={-1}
      className="fixed inset-0 z-[60] flex flex-col bg-[#14110f] text-[#f3efe8] outline-none"
    >
      {children}
      {notes && (
        <section aria-label="Notes" className="max-h-40 overflow-y-auto border-t border-white/15 px-6 py-3">
          <p className="max-w-[80ch] whitespace-pre-wrap">{shots[at].notes || 'No notes on this one.'}</p>
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
        <span className="min-w-0 flex-1 truncate text-center font-medium">{shots[at].name}</span>
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
