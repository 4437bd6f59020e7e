import { ContextMenu } from 'radix-ui';
import { type ReactNode, useRef, useState } from 'react';

interface Props {
  name: string;
  /** A data address; empty for none. */
  thumbnail: string;
  /** Why it cannot be opened. */
  problem?: string | null;
  onOpen(): void;
  onRename(to: string): void;
  /** What else the menu of it offers: `ShotAct`s. */
  children: ReactNode;
}

/** A kept state in a row of such: a press opens it, its menu does all else. */
export function ShotTile({ name, thumbnail, problem, onOpen, onRename, children }: Props) {
  const [renaming, setRenaming] = useState(false);
  const renames = useRef(false);
  return (
    <li className="shrink-0">
      <ContextMenu.Root>
        <ContextMenu.Trigger asChild>
          <button
            type="button"
            className={`group relative block h-[54px] w-[78px] overflow-hidden rounded-md border border-rule hover:border-accent ${problem ? 'opacity-40' : ''}`}
            onClick={onOpen}
            onDoubleClick={() => setRenaming(true)}
            title={problem ?? `${name}: click to open, right-click for more`}
            aria-label={`Open ${name}`}
          >
            {thumbnail && <img src={thumbnail} alt="" className="size-full object-cover" />}
            <span className="absolute inset-x-0 bottom-0 truncate bg-sheet/85 px-1 text-[11px] leading-[15px]">
              {name}
            </span>
          </button>
        </ContextMenu.Trigger>
        <ContextMenu.Portal>
          <ContextMenu.Content
            className="card z-50 w-52 p-1.5"
            onCloseAutoFocus={(e) => {
              if (!renames.current) return;
              // Before the menu is gone, a field would lose the keyboard to what had it before.
              e.preventDefault();
              renames.current = false;
              setRenaming(true);
            }}
          >
            <ShotAct
              onSelect={() => {
                renames.current = true;
              }}
            >
              Rename
            </ShotAct>
            {children}
          </ContextMenu.Content>
        </ContextMenu.Portal>
      </ContextMenu.Root>
      {renaming && (
        <input
          // biome-ignore lint/a11y/noAutofocus: the person just asked to type here
          autoFocus
          aria-label="Name of the shot"
          className="field absolute bottom-20 w-44"
          defaultValue={name}
          onBlur={(e) => {
            setRenaming(false);
            const to = e.target.value.trim();
            if (to && to !== name) onRename(to);
          }}
          onKeyDown={(e) => {
            if (e.key === 'Escape') e.currentTarget.value = name;
            if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur();
          }}
        />
      )}
    </li>
  );
}

/** Something that is done with a shot. */
export function ShotAct({ onSelect, children }: { onSelect(): void; children: ReactNode }) {
  return (
    <ContextMenu.Item
      onSelect={onSelect}
      className="flex cursor-pointer items-center gap-2 rounded-md px-2.5 py-1 outline-none data-highlighted:bg-sunk"
    >
      {children}
    </ContextMenu.Item>
  );
}

/** A name that none of them has. */
export function nextShotName(shots: readonly { name: string }[]): string {
  const taken = new Set(shots.map((s) => s.name));
  for (let n = shots.length + 1; ; n++) if (!taken.has(`Shot ${n}`)) return `Shot ${n}`;
}
