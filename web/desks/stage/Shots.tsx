import { Camera, RefreshCw, Trash2 } from 'lucide-react';
import { ContextMenu } from 'radix-ui';
import { useState } from 'react';
import type { Viewport } from '#stage/viewport.ts';
import { useRoving } from '#web/desks/shared/roving.ts';
import type { DeskController } from './desk-controller.ts';
import { useDesk } from './desk-store.ts';
import { openShot, whatIsOnShow } from './open-shot.ts';
import { thumbnailOf } from './StageView.tsx';
import { changeShot, keepShot, removeShot, type Shot } from './shot-edits.ts';
import { numbersThumbnail } from './shots/numbers-picture.ts';
import { ShotBoard } from './shots/ShotBoard.tsx';

interface Props {
  controller: DeskController;
  viewport: Viewport | null;
}

/** Kept states of the scene with their pictures. */
export function Shots({ controller, viewport }: Props) {
  const shots = useDesk((s) => s.shots);
  const list = useRoving<HTMLUListElement>();
  const [renaming, setRenaming] = useState<string | null>(null);

  const now = async () => {
    const shown = whatIsOnShow();
    const thumbnail =
      shown.kind === 'charts'
        ? await numbersThumbnail(controller.source, shown.document)
        : await thumbnailOf(viewport!);
    return { ...shown, thumbnail };
  };
  const keep = async () => keepShot({ name: nextName(shots), ...(await now()) });

  return (
    <div
      className={`flex max-w-[380px] items-center gap-2 border-l border-rule pl-4 ${shots.length > 0 ? 'min-w-40' : 'min-w-16'}`}
    >
      <ul ref={list} aria-label="Shots" className="flex min-w-0 gap-2 overflow-x-auto py-1">
        {shots.map((kept) => (
          <li key={kept.id} className="shrink-0">
            <ContextMenu.Root>
              <ContextMenu.Trigger asChild>
                <button
                  type="button"
                  className={`group relative block h-[54px] w-[78px] overflow-hidden rounded-md border border-rule hover:border-accent ${kept.document ? '' : 'opacity-40'}`}
                  onClick={() => openShot(kept)}
                  onDoubleClick={() => setRenaming(kept.id)}
                  title={kept.problem ?? `${kept.name}: click to open, right-click for more`}
                  aria-label={`Open ${kept.name}`}
                >
                  {kept.thumbnail && <img src={kept.thumbnail} alt="" className="size-full object-cover" />}
                  <span className="absolute inset-x-0 bottom-0 truncate bg-sheet/85 px-1 text-[11px] leading-[15px]">
                    {kept.name}
                  </span>
                </button>
              </ContextMenu.Trigger>
              <ContextMenu.Portal>
                <ContextMenu.Content className="card z-50 w-52 p-1.5">
                  <Item onSelect={() => setRenaming(kept.id)}>Rename</Item>
                  <Item onSelect={async () => changeShot(kept, await now())}>
                    <RefreshCw size={14} /> Keep the present state here
                  </Item>
                  <Item onSelect={() => removeShot(kept)}>
                    <Trash2 size={14} /> Delete
                  </Item>
                </ContextMenu.Content>
              </ContextMenu.Portal>
            </ContextMenu.Root>
            {renaming === kept.id && (
              <input
                // biome-ignore lint/a11y/noAutofocus: the person just asked to type here
                autoFocus
                aria-label="Name of the shot"
                className="field absolute bottom-20 w-44"
                defaultValue={kept.name}
                onBlur={(e) => {
                  setRenaming(null);
                  const name = e.target.value.trim();
                  if (name && name !== kept.name) void changeShot(kept, { name });
                }}
                onKeyDown={(e) => {
                  if (e.key === 'Escape') e.currentTarget.value = kept.name;
                  if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur();
                }}
              />
            )}
          </li>
        ))}
      </ul>
      {shots.length > 0 && viewport && <ShotBoard controller={controller} viewport={viewport} />}
      <button
        type="button"
        className="quiet shrink-0"
        title="Keep shot"
        aria-label="Keep shot"
        onClick={keep}
        disabled={!viewport}
      >
        <Camera size={15} /> <span className="@max-3xl:hidden">Keep shot</span>
      </button>
    </div>
  );
}

function Item({ onSelect, children }: { onSelect(): void; children: React.ReactNode }) {
  return (
    <ContextMenu.Item
      onSelect={onSelect}
      className="flex cursor-pointer items-center gap-2 rounded-md px-2.5 py-1 outline-none data-highlighted:bg-sunk"
    >
      {children}
    </ContextMenu.Item>
  );
}

function nextName(shots: Shot[]): string {
  const taken = new Set(shots.map((s) => s.name));
  for (let n = shots.length + 1; ; n++) if (!taken.has(`Shot ${n}`)) return `Shot ${n}`;
}
