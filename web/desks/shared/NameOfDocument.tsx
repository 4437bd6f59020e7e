import type { SaveState } from './document-saver.ts';

interface Props {
  label: string;
  name: string;
  save: SaveState<never>['kind'];
  onRename(name: string): void;
}

const texts = { saved: 'saved', saving: 'saving …', failed: 'not saved', conflict: 'not saved' };

/** The name of what a desk is about, and whether it is saved. */
export function NameOfDocument({ label, name, save, onRename }: Props) {
  return (
    <div className="flex items-baseline gap-3">
      <input
        aria-label={label}
        className="min-w-0 max-w-72 rounded-md px-2 py-1 font-medium [field-sizing:content] hover:bg-sunk focus:bg-sheet"
        value={name}
        onChange={(e) => e.target.value && onRename(e.target.value)}
        onKeyDown={(e) => (e.key === 'Enter' || e.key === 'Escape') && e.currentTarget.blur()}
      />
      <span
        className={`text-xs ${save === 'failed' || save === 'conflict' ? 'text-warn' : 'text-soft'}`}
        role="status"
      >
        {texts[save]}
      </span>
    </div>
  );
}
