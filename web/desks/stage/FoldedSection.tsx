import { ChevronRight } from 'lucide-react';
import { type ReactNode, useEffect, useState } from 'react';

interface Props {
  /** What it is called by screen readers. */
  label: string;
  title: ReactNode;
  /** Said small beside the title. */
  aside?: ReactNode;
  open: boolean;
  onOpen(open: boolean): void;
  children: ReactNode;
}

/** A part of the panel that is folded away until it is wanted. */
export function FoldedSection({ label, title, aside, open, onOpen, children }: Props) {
  return (
    <section aria-label={label} className="border-t border-rule/70 px-3 py-2">
      <button
        type="button"
        className="flex w-full items-center gap-1.5 rounded-md px-2 py-1 text-left font-medium hover:bg-sunk"
        aria-expanded={open}
        onClick={() => onOpen(!open)}
      >
        <ChevronRight size={15} className={`transition ${open ? 'rotate-90' : ''}`} />
        {title}
        <span className="font-normal text-soft">{aside}</span>
      </button>
      {open && children}
    </section>
  );
}

/**
 * Whether such a part is unfolded: what is opened elsewhere unfolds it, and it stays so.
 *
 * @param opened which of its elements is open; null for none
 */
export function useUnfolded(opened: string | null): [boolean, (open: boolean) => void] {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    if (opened !== null) setOpen(true);
  }, [opened]);
  return [open, setOpen];
}
