import { Eye, EyeOff, Trash2 } from 'lucide-react';
import type { ReactNode } from 'react';
import { Chooser } from './Chooser.tsx';
import type { AnyControl, ControlProps } from './controls/control-props.ts';
import { Controls } from './controls/OneControl.tsx';

interface Props {
  /** What it says of itself. */
  said: string;
  visible: boolean;
  onVisible(): void;
  open: boolean;
  onOpen(open: boolean): void;
  controls: readonly AnyControl[];
  /** Keys of those that are folded away, and what is written over them. */
  folded: ReadonlySet<string>;
  foldedTitle: string;
  common: Omit<ControlProps, 'control'>;
  /** Whether nothing of it can be changed now. */
  locked?: boolean;
  onDelete(): void;
  /** A mark between its words and its end. */
  mark?: ReactNode;
  /** What else can be done with it, below its settings. */
  children: ReactNode;
}

/** One of a list of the scene: seen or not, what it says, its settings behind that. */
export function ListedLine(p: Props) {
  const { said, visible, controls, folded, common } = p;
  const [Seen, does] = visible ? [Eye, 'Hide'] : [EyeOff, 'Show'];
  return (
    <li className="group/line flex items-start gap-1 rounded-md hover:bg-sunk">
      <button
        type="button"
        className="mark size-7 shrink-0"
        aria-pressed={visible}
        aria-label={`${does} ${said}`}
        onClick={p.onVisible}
      >
        <Seen size={15} />
      </button>
      <div
        className={`min-w-0 flex-1 py-0.5 font-book text-[15.5px] leading-snug ${visible ? '' : 'opacity-50'}`}
      >
        <Chooser wide label={`Change ${said}`} word={said} open={p.open} onOpen={p.onOpen}>
          <fieldset disabled={p.locked === true} className={p.locked ? 'opacity-60' : ''}>
            <Controls controls={controls} only={(c) => !folded.has(c.key)} {...common} />
            {controls.some((c) => folded.has(c.key)) && (
              <details className="mt-2.5" open={controls.every((c) => folded.has(c.key))}>
                <summary className="cursor-pointer text-sm text-soft hover:text-ink">{p.foldedTitle}</summary>
                <div className="mt-2">
                  <Controls controls={controls} only={(c) => folded.has(c.key)} {...common} />
                </div>
              </details>
            )}
          </fieldset>
          <div className="mt-3 flex flex-wrap gap-x-3 gap-y-1.5 border-t border-rule/70 pt-2 text-sm">
            {p.children}
          </div>
        </Chooser>
      </div>
      {p.mark}
      {p.locked ? (
        <span className="size-7 shrink-0" />
      ) : (
        <button
          type="button"
          className="mark size-7 shrink-0 opacity-0 group-hover/line:opacity-100 focus-visible:opacity-100"
          aria-label={`Delete ${said}`}
          onClick={p.onDelete}
        >
          <Trash2 size={14} />
        </button>
      )}
    </li>
  );
}

/** Something that can be done with one of a list. */
export function Act({ onDo, children }: { onDo(): void; children: ReactNode }) {
  return (
    <button type="button" className="flex items-center gap-1 text-soft hover:text-accent" onClick={onDo}>
      {children}
    </button>
  );
}
