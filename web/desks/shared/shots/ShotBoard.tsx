import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { rectSortingStrategy, SortableContext, sortableKeyboardCoordinates } from '@dnd-kit/sortable';
import { LayoutGrid, Presentation, X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import { type ReactNode, useState } from 'react';
import { shotGroups, tagsOf } from '#core/scene/shot-groups.ts';
import { draggingTold } from '#web/desks/shared/dragging-told.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { type KeptShot, type SaidOfShot, ShotCard } from './ShotCard.tsx';

interface Props<K extends string, S extends KeptShot & { kind: K }> {
  /** All there are, in their order. */
  shots: readonly S[];
  /** For what they show, in their order. */
  headings: Readonly<Record<K, string>>;
  onOpen(shot: S): void;
  onChange(shot: S, change: SaidOfShot): unknown;
  onRemove(shot: S): unknown;
  /** Told of all ids in their new order. */
  onOrder(ids: string[]): unknown;
  /** What fills the screen with some of them, one after the other. */
  present(shots: readonly S[], first: number, onDone: () => void): ReactNode;
}

/** All shots under their headings: named, tagged, put in order, and presented one after the other. */
export function ShotBoard<K extends string, S extends KeptShot & { kind: K }>({
  shots: all,
  headings,
  onOpen,
  onChange,
  onRemove,
  onOrder,
  present: presenting,
}: Props<K, S>) {
  const [open, setOpen] = useState(false);
  const [tag, setTag] = useState<string | null>(null);
  const [presented, setPresented] = useState<number | null>(null);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  // Only one of both takes the keys.
  const present = (from: number): void => {
    setOpen(false);
    setPresented(from);
  };
  const tags = tagsOf(all);
  const groups = shotGroups(all, headings, tag !== null && tags.includes(tag) ? tag : null);
  const inOrder = groups.flatMap((g) => g.shots);
  const announcements = draggingTold((id) => all.find((s) => s.id === id)?.name ?? '');
  const folders = [...new Set(all.flatMap((s) => s.folder ?? []))];
  return (
    <>
      <Dialog.Root open={open} onOpenChange={setOpen}>
        <Dialog.Trigger
          className="mark shrink-0"
          aria-label="All shots"
          title="All shots: headings, tags, notes, order"
        >
          <LayoutGrid size={16} />
        </Dialog.Trigger>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
          <Dialog.Content
            aria-describedby={undefined}
            className="card fixed inset-x-10 inset-y-8 z-40 mx-auto flex max-w-6xl flex-col outline-none!"
          >
            <div className="flex flex-wrap items-center gap-3 border-b border-rule px-6 py-3.5">
              <Dialog.Title className="font-book text-[21px] font-medium">Shots</Dialog.Title>
              {tags.length > 0 && (
                <fieldset className="flex min-w-0 flex-1 flex-wrap gap-1.5">
                  <legend className="sr-only">Only shots with a tag</legend>
                  <Pill on={tag === null} onClick={() => setTag(null)}>
                    all
                  </Pill>
                  {tags.slice(0, 12).map((one) => (
                    <Pill key={one} on={tag === one} onClick={() => setTag(one)}>
                      {one}
                    </Pill>
                  ))}
                </fieldset>
              )}
              <button
                type="button"
                className="act ml-auto"
                disabled={inOrder.length === 0}
                onClick={() => present(0)}
                title="One after the other, filling the screen"
              >
                <Presentation size={15} /> Present
              </button>
              <Dialog.Close className="mark" aria-label="Close">
                <X size={17} />
              </Dialog.Close>
            </div>
            <div className="min-h-0 flex-1 overflow-y-auto px-6 py-4">
              {groups.map((group) => (
                <section key={group.heading} aria-label={group.heading} className="mb-6">
                  <h2 className="head mb-2">{group.heading}</h2>
                  <DndContext
                    sensors={sensors}
                    collisionDetection={closestCenter}
                    accessibility={{ announcements }}
                    onDragEnd={({ active, over }) => {
                      if (over && active.id !== over.id)
                        void onOrder(
                          movedTo(
                            all.map((s) => s.id),
                            String(active.id),
                            String(over.id),
                          ),
                        );
                    }}
                  >
                    <SortableContext items={group.shots.map((s) => s.id)} strategy={rectSortingStrategy}>
                      <ul className="grid grid-cols-[repeat(auto-fill,minmax(250px,1fr))] gap-4">
                        {group.shots.map((one) => (
                          <ShotCard
                            key={one.id}
                            shot={one}
                            folders={folders}
                            onOpen={() => {
                              setOpen(false);
                              onOpen(one);
                            }}
                            onChange={(change) => onChange(one, change)}
                            onRemove={() => onRemove(one)}
                            onPresent={() => present(inOrder.indexOf(one))}
                          />
                        ))}
                      </ul>
                    </SortableContext>
                  </DndContext>
                </section>
              ))}
            </div>
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
      {presented !== null && presenting(inOrder, presented, () => setPresented(null))}
    </>
  );
}

/** Ids in a new order: one of them in the place of another. */
function movedTo(ids: readonly string[], moved: string, over: string): string[] {
  const to = ids.indexOf(over);
  return ids.filter((id) => id !== moved).toSpliced(to, 0, moved);
}
