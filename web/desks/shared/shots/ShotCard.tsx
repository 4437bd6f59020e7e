import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical, Presentation, Trash2 } from 'lucide-react';
import { type RefObject, useId, useLayoutEffect, useRef } from 'react';
import { readTags } from '#core/scene/shot-groups.ts';

/** A kept state, as boards have it. */
export interface KeptShot {
  id: string;
  name: string;
  /** A data address; empty where it was not drawn yet. */
  thumbnail: string;
  /** Why it cannot be opened. */
  problem?: string | null;
  /** The heading it was put under by hand. */
  folder: string | null;
  tags: readonly string[];
  /** For whoever presents it. */
  notes: string;
}

/** What is said of one. */
export interface SaidOfShot {
  name?: string;
  folder?: string | null;
  tags?: string[];
  notes?: string;
}

interface Props {
  shot: KeptShot;
  /** Headings there are. */
  folders: readonly string[];
  onOpen(): void;
  onPresent(): void;
  onChange(change: SaidOfShot): unknown;
  onRemove(): unknown;
}

/** One shot with all that is said of it; what is typed is kept when the field is left. */
export function ShotCard({ shot, folders, onOpen, onPresent, onChange, onRemove }: Props) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition } = useSortable({
    id: shot.id,
  });
  const { name, notes } = shot;
  const known = useId();
  const written = useKeptWhenGone<HTMLTextAreaElement>(notes, (to) => onChange({ notes: to }));
  return (
    <li
      ref={setNodeRef}
      aria-label={name}
      className="flex flex-col gap-2 rounded-xl border border-rule bg-sheet p-2.5"
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      <button
        type="button"
        className="block aspect-[3/2] overflow-hidden rounded-lg border border-rule bg-sunk hover:border-accent"
        aria-label={`Open ${name}`}
        title={shot.problem ?? `Open ${name}`}
        onClick={onOpen}
      >
        {shot.thumbnail && <img src={shot.thumbnail} alt="" className="size-full object-cover" />}
      </button>
      <div className="flex items-center gap-1">
        <button
          ref={setActivatorNodeRef}
          type="button"
          className="mark size-7 cursor-grab"
          aria-label={`Move ${name}`}
          title="Drag to another place; Space takes it by keys"
          {...attributes}
          {...listeners}
        >
          <GripVertical size={15} />
        </button>
        <Field
          label={`Name of ${name}`}
          value={name}
          className="font-medium"
          onChange={(to) => to !== '' && onChange({ name: to.slice(0, 200) })}
        />
        <button
          type="button"
          className="mark size-7"
          aria-label={`Present from ${name}`}
          title="Present from here"
          onClick={onPresent}
        >
          <Presentation size={15} />
        </button>
        <button
          type="button"
          className="mark size-7"
          aria-label={`Delete ${name}`}
          title="Delete; undo brings it back"
          onClick={onRemove}
        >
          <Trash2 size={15} />
        </button>
      </div>
      <Field
        label={`Heading of ${name}`}
        placeholder="under a heading of your own"
        value={shot.folder ?? ''}
        list={known}
        onChange={(to) => onChange({ folder: to === '' ? null : to.slice(0, 200) })}
      />
      <datalist id={known}>
        {folders.map((folder) => (
          <option key={folder} value={folder} />
        ))}
      </datalist>
      <Field
        label={`Tags of ${name}`}
        placeholder="tags, with commas between"
        value={shot.tags.join(', ')}
        onChange={(to) => onChange({ tags: readTags(to) })}
      />
      <textarea
        key={notes}
        ref={written}
        aria-label={`Notes on ${name}`}
        placeholder="notes for whoever presents it"
        className="field min-h-14 w-full resize-y text-sm"
        defaultValue={notes}
        onBlur={(e) => e.target.value !== notes && void onChange({ notes: e.target.value })}
        onKeyDown={(e) => e.key === 'Escape' && e.stopPropagation()}
      />
    </li>
  );
}

/** What was typed is kept also where its field goes before it is left, as when its card moves under another heading. */
function useKeptWhenGone<E extends HTMLInputElement | HTMLTextAreaElement>(
  value: string,
  onChange: (to: string) => unknown,
): RefObject<E | null> {
  const element = useRef<E>(null);
  const latest = useRef({ value, onChange });
  latest.current = { value, onChange };
  useLayoutEffect(() => {
    const field = element.current;
    return () => {
      const isTyped = field !== null && document.activeElement === field;
      if (isTyped && field.value !== latest.current.value) latest.current.onChange(field.value);
    };
  }, [value]);
  return element;
}

interface FieldProps {
  label: string;
  value: string;
  placeholder?: string;
  className?: string;
  list?: string;
  onChange(to: string): unknown;
}

/** A line to type, kept when it is left or confirmed; Escape leaves it as it was. */
function Field({ label, value, placeholder, className = 'text-sm', list, onChange }: FieldProps) {
  const typed = useKeptWhenGone<HTMLInputElement>(value, (to) => onChange(to.trim()));
  return (
    <input
      key={value}
      ref={typed}
      aria-label={label}
      placeholder={placeholder}
      className={`field w-full min-w-0 ${className}`}
      defaultValue={value}
      list={list}
      onBlur={(e) => {
        const to = e.target.value.trim();
        if (to !== value) onChange(to);
      }}
      onKeyDown={(e) => {
        if (e.key === 'Escape') {
          e.currentTarget.value = value;
          e.stopPropagation();
        }
        if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur();
      }}
    />
  );
}
