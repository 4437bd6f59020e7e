import { Redo2, Undo2 } from 'lucide-react';

interface Props {
  /** What would be taken back, and done again; null for nothing. */
  history: { undoText: string | null; redoText: string | null };
  undo(): void;
  redo(): void;
}

/** Taking back, and doing again. */
export function UndoRedo({ history: { undoText, redoText }, undo, redo }: Props) {
  return (
    <div className="flex">
      <button
        type="button"
        className="mark"
        onClick={undo}
        disabled={!undoText}
        aria-label="Undo"
        title={undoText ? `Undo: ${undoText}` : 'Nothing to undo'}
      >
        <Undo2 size={17} />
      </button>
      <button
        type="button"
        className="mark"
        onClick={redo}
        disabled={!redoText}
        aria-label="Redo"
        title={redoText ? `Redo: ${redoText}` : 'Nothing to redo'}
      >
        <Redo2 size={17} />
      </button>
    </div>
  );
}
