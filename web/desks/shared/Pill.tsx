import type { ReactNode } from 'react';

interface Props {
  on: boolean;
  onClick(): void;
  title?: string;
  children: ReactNode;
}

/** One of a row of choices. */
export function Pill({ on, onClick, title, children }: Props) {
  return (
    <button
      type="button"
      aria-pressed={on}
      title={title}
      onClick={onClick}
      className={`rounded-full border px-2.5 py-0.5 text-sm ${on ? 'border-accent bg-accent text-on-accent' : 'border-rule hover:border-soft'}`}
    >
      {children}
    </button>
  );
}
