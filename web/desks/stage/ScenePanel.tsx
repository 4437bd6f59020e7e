import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { restrictToVerticalAxis } from '@dnd-kit/modifiers';
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { Plus } from 'lucide-react';
import { Popover } from 'radix-ui';
import { operations } from '#core/ops/registry.ts';
import { edit, useScene } from './desk-store.ts';
import { LayerLine } from './LayerLine.tsx';
import { addLayer } from './layer-edits.ts';
import { PartList } from './PartList.tsx';
import { LensLine, LightLine, WordsLine } from './SettingLines.tsx';

/** The scene as it would be read aloud: what is shown, in which light, through which lens, with which words. */
export function ScenePanel() {
  const { layers } = useScene();
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  return (
    <aside aria-label="Scene" className="flex w-[340px] shrink-0 flex-col border-r border-rule bg-paper">
      <div className="min-h-0 flex-1 overflow-y-auto">
        <DndContext
          sensors={sensors}
          collisionDetection={closestCenter}
          modifiers={[restrictToVerticalAxis]}
          onDragEnd={({ active, over }) => {
            if (!over || active.id === over.id) return;
            edit({
              type: 'layer.move',
              id: String(active.id),
              to: layers.findIndex((l) => l.id === over.id),
            });
          }}
        >
          <SortableContext items={layers.map((l) => l.id)} strategy={verticalListSortingStrategy}>
            <ul className="px-2 pt-1">
              {layers.map((layer) => (
                <LayerLine key={layer.id} layer={layer} />
              ))}
            </ul>
          </SortableContext>
        </DndContext>
        {layers.length === 0 && (
          <p className="px-5 py-4 text-soft">Nothing is shown yet. Add a line to begin.</p>
        )}
        <AddLine />
        <PartList />
      </div>
      <div className="shrink-0 border-t border-rule px-4 py-3 font-book text-[16px] leading-[1.45]">
        <LightLine />
        <LensLine />
        <WordsLine />
      </div>
    </aside>
  );
}

function AddLine() {
  return (
    <Popover.Root>
      <Popover.Trigger className="mx-3 my-2.5 inline-flex items-center gap-2 rounded-full px-2 py-1 font-medium text-accent hover:bg-accent-wash">
        <Plus size={16} /> Add a line
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content side="right" align="start" sideOffset={8} className="card z-50 w-64 p-2">
          {operations.map((operation) => (
            <Popover.Close asChild key={operation.id}>
              <button
                type="button"
                className="block w-full rounded-md px-3 py-1.5 text-left hover:bg-sunk"
                onClick={() => addLayer(operation)}
              >
                <span className="font-medium">{operation.name}</span>
                <span className="block text-soft">{operation.purpose}</span>
              </button>
            </Popover.Close>
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
