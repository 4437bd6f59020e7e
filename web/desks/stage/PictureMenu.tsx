import { type ReactNode, useEffect } from 'react';
import { useRoving } from '#web/desks/shared/roving.ts';

/** Of a menu, in pixels of the page. */
export const MENU_WIDTH = 224;

interface Props {
  /** What it is about, for who cannot see it. */
  label: string;
  title: ReactNode;
  /** Where it begins on the picture, in pixels of the page. */
  left: number;
  top: number;
  onClose(): void;
  children: ReactNode;
}

/** What can be done with a place of the picture: a menu beside it, which ends within the picture however long it is. */
export function PictureMenu({ label, title, left, top, onClose, children }: Props) {
  const menu = useRoving<HTMLDivElement>();
  useEffect(() => {
    menu.current?.querySelector('button')?.focus();
    const leave = (e: KeyboardEvent): void => {
      if (e.key === 'Escape') onClose();
    };
    addEventListener('keydown', leave);
    return () => removeEventListener('keydown', leave);
  }, []);
  return (
    // What is above it gives way.
    <div className="pointer-events-none absolute inset-y-2 z-20 flex flex-col" style={{ left }}>
      <div style={{ flex: `0 1 ${top}px` }} />
      <div
        ref={menu}
        role="menu"
        aria-label={label}
        data-handle
        className="card pointer-events-auto max-h-full shrink-0 overflow-y-auto p-1.5"
        style={{ width: MENU_WIDTH }}
      >
        <p className="truncate px-2 pt-1 pb-1.5 font-medium tabular-nums">{title}</p>
        {children}
      </div>
    </div>
  );
}

/** One thing that can be done. */
export function MenuLine({
  label,
  onClick,
  children,
}: {
  label: string;
  onClick(): void;
  /** A picture of it. */
  children?: ReactNode;
}) {
  return (
    <button
      type="button"
      role="menuitem"
      className="flex w-full items-center gap-2 rounded-md px-2 py-1 text-left hover:bg-sunk"
      onClick={onClick}
    >
      {children && <span className="text-soft">{children}</span>}
      {label}
    </button>
  );
}
