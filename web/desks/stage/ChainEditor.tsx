import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { restrictToVerticalAxis } from '@dnd-kit/modifiers';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical, Power, Trash2 } from 'lucide-react';
import { useMemo } from 'react';
import { operations } from '#core/ops/registry.ts';
import type { ChainStep, Layer } from '#core/scene/document.ts';
import { settingOf } from '#core/scene/setting.ts';
import { draggingTold } from '#web/desks/shared/dragging-told.ts';
import { ChooseOnce, Chooser } from './Chooser.tsx';
import { OptionControls } from './controls/OptionControls.tsx';
import { edit, useRun, useScene } from './desk-store.ts';
import { addOperation } from './layer-edits.ts';

/** The operations of a layer in their order: drag to move one, switch it off, take it away, add another behind. */
export function ChainEditor({ layer }: { layer: Layer }) {
  const run = useRun();
  const scene = useScene();
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const announcements = draggingTold((id) => {
    const step = layer.chain.find((one) => one.id === id);
    return step ? nameOf(step) : '';
  });
  const setting = settingOf(run, scene, layer);
  // The same list as long as it says the same: a new one makes the drag and drop measure everything again.
  const joined = layer.chain.map((s) => s.id).join('|');
  const ids = useMemo(() => joined.split('|').filter(Boolean), [joined]);
  return (
    <div className="flex flex-col gap-2">
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        modifiers={[restrictToVerticalAxis]}
        accessibility={{ announcements }}
        onDragEnd={({ active, over }) => {
          if (over && active.id !== over.id)
            edit({
              type: 'chain.move',
              id: layer.id,
              step: String(active.id),
              to: ids.indexOf(String(over.id)),
            });
        }}
      >
        <SortableContext items={ids} strategy={verticalListSortingStrategy}>
          {layer.chain.map((step) => (
            <ChainStepBox key={step.id} layer={layer} step={step} />
          ))}
        </SortableContext>
      </DndContext>
      <div>
        <Chooser
          word="+ then …"
          label="Add an operation"
          look="text-sm font-medium text-accent hover:underline"
          wide
        >
          <p className="head mb-1.5">Then</p>
          <div className="grid grid-cols-2 items-start gap-x-1 gap-y-0.5">
            {operations
              .filter((o) => !o.fits || o.fits({ ...setting, dimension: Math.min(setting.dimension, 3) }))
              .map((operation) => (
                <ChooseOnce
                  key={operation.id}
                  className="rounded-md px-2 py-1 text-left hover:bg-sunk"
                  onClick={() => addOperation(layer, operation)}
                >
                  <span className="block font-medium">{operation.name}</span>
                  <span className="block text-xs leading-tight text-soft">{operation.purpose}</span>
                </ChooseOnce>
              ))}
          </div>
        </Chooser>
      </div>
    </div>
  );
}

const nameOf = ({ op }: ChainStep): string => operations.find((o) => o.id === op)?.name ?? `“${op}”`;

function ChainStepBox({ layer, step: whole }: { layer: Layer; step: ChainStep }) {
  const { id: step, off } = whole;
  const sortable = useSortable({ id: step });
  const name = nameOf(whole);
  return (
    <section
      ref={sortable.setNodeRef}
      aria-label={name}
      style={{ transform: CSS.Translate.toString(sortable.transform), transition: sortable.transition }}
      className="rounded-md border border-rule/80 bg-paper px-2 pt-1 pb-2"
    >
      <header className="mb-1 flex items-center gap-1">
        <button
          type="button"
          {...sortable.attributes}
          {...sortable.listeners}
          className="cursor-grab text-soft"
          aria-label={`Move ${name}`}
        >
          <GripVertical size={14} />
        </button>
        <span className={`flex-1 text-sm font-medium ${off ? 'text-soft line-through' : ''}`}>{name}</span>
        <button
          type="button"
          className="mark size-6"
          aria-pressed={!off}
          aria-label={off ? `Switch ${name} on` : `Switch ${name} off`}
          title={off ? 'Switch on' : 'Switch off'}
          onClick={() => edit({ type: 'chain.switch', id: layer.id, step, off: !off })}
        >
          <Power size={13} />
        </button>
        <button
          type="button"
          className="mark size-6"
          aria-label={`Take ${name} away`}
          title="Take away"
          onClick={() => edit({ type: 'chain.remove', id: layer.id, step })}
        >
          <Trash2 size={13} />
        </button>
      </header>
      {!off && <OptionControls layer={layer} step={step} />}
    </section>
  );
}
