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
import { useMemo } from 'react';
import { draggingTold } from '#web/desks/shared/dragging-told.ts';
import { Guard } from '#web/desks/shared/Guard.tsx';
import { useRoving } from '#web/desks/shared/roving.ts';
import { AddLine } from './AddLine.tsx';
import { edit, undo, useScene } from './desk-store.ts';
import { LayerLine } from './LayerLine.tsx';
import { LooksChooser } from './looks/LooksChooser.tsx';
import { PartList } from './PartList.tsx';
import { PartSets } from './PartSets.tsx';
import { SceneQuantities } from './quantities/SceneQuantities.tsx';
import { SettingLines } from './SettingLines.tsx';
import { ScenerySection } from './scenery/ScenerySection.tsx';
import { WordsSection } from './words/WordsSection.tsx';

/** The scene as it would be read aloud: what is shown, in which light, through which lens, with which words. */
export function ScenePanel() {
  const { layers } = useScene();
  const settings = useRoving<HTMLDivElement>();
  const joined = layers.map((l) => l.id).join('|');
  // The same list as long as it says the same: a new one makes the drag and drop measure everything again.
  const ids = useMemo(() => joined.split('|').filter(Boolean), [joined]);
  const announcements = draggingTold((id) => `Line ${layers.findIndex((l) => l.id === id) + 1}`);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  return (
    <aside
      id="lines"
      aria-label="Scene"
      className="flex w-[340px] shrink-0 flex-col border-r border-rule bg-paper"
    >
      <div className="min-h-0 flex-1 overflow-y-auto">
        <DndContext
          sensors={sensors}
          collisionDetection={closestCenter}
          modifiers={[restrictToVerticalAxis]}
          accessibility={{ announcements }}
          onDragEnd={({ active, over }) => {
            if (!over || active.id === over.id) return;
            edit({
              type: 'layer.move',
              id: String(active.id),
              to: layers.findIndex((l) => l.id === over.id),
            });
          }}
        >
          <SortableContext items={ids} strategy={verticalListSortingStrategy}>
            <ul className="px-2 pt-1">
              {layers.map((layer, i) => (
                <Guard key={layer.id} what={`Line ${i + 1}`} retry={layer} onUndo={undo}>
                  <LayerLine layer={layer} />
                </Guard>
              ))}
            </ul>
          </SortableContext>
        </DndContext>
        {layers.length === 0 && (
          <p className="px-5 py-4 text-soft">Nothing is shown yet. Add a line to begin.</p>
        )}
        <AddLine />
        <PartList />
        <PartSets />
        <SceneQuantities />
        <WordsSection />
        <ScenerySection />
      </div>
      <div
        ref={settings}
        className="shrink-0 border-t border-rule px-4 py-3 font-book text-[16px] leading-[1.45]"
      >
        <div className="-mt-1 mb-0.5 flex items-center justify-between font-sans">
          <h2 className="head">How it looks</h2>
          <LooksChooser />
        </div>
        <SettingLines />
      </div>
    </aside>
  );
}
