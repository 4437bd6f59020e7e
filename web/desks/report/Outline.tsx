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
import {
  ChartLine,
  FileQuestion,
  GripVertical,
  Hash,
  Heading,
  Image,
  type LucideIcon,
  Sheet,
  Table,
  Text,
  TriangleAlert,
} from 'lucide-react';
import type { SeenSource } from '#core/report/blocks/block.ts';
import { type Block, kindOf, showsSource } from '#core/report/blocks/registry.ts';
import { draggingTold } from '#web/desks/shared/dragging-told.ts';
import { AddBlock } from './AddBlock.tsx';
import { BlockFields } from './BlockFields.tsx';
import { choose, editReport, useReport, useReportDesk } from './report-store.ts';
import { useComposed } from './use-composed.ts';

const icons: Record<Block['kind'], LucideIcon> = {
  heading: Heading,
  text: Text,
  figure: Image,
  chart: ChartLine,
  numbers: Hash,
  readings: Table,
  runs: Sheet,
};

/** What a report is made of, in its order; what is chosen unfolds beneath its line. */
export function Outline() {
  const { blocks, sources } = useReport();
  const chosen = useReportDesk((s) => s.chosen);
  const { troubles } = useComposed();
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const at = {
    source: (id: string): SeenSource | null => {
      const found = sources.find((s) => s.id === id);
      return found ? { name: found.name, key: found.seen, facts: null, trouble: null } : null;
    },
  };
  const says = (block: Block): string => kindOf(block).says(block, at);
  const troubled = new Set(troubles.map((t) => t.block));
  return (
    <section aria-label="Outline" className="px-3 py-3">
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        modifiers={[restrictToVerticalAxis]}
        accessibility={{
          announcements: draggingTold((id) => {
            const block = blocks.find((b) => b.id === id);
            return block ? says(block) : '';
          }),
        }}
        onDragEnd={({ active, over }) => {
          if (over && active.id !== over.id)
            editReport({ type: 'block.move', id: String(active.id), to: String(over.id) });
        }}
      >
        <SortableContext items={blocks.map((b) => b.id)} strategy={verticalListSortingStrategy}>
          <ol className="flex flex-col">
            {blocks.map((block) => (
              <OutlineLine
                key={block.id}
                block={block}
                says={says(block)}
                isChosen={block.id === chosen}
                isTroubled={troubled.has(block.id)}
              />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
      {blocks.length === 0 && (
        <p className="px-2 pb-2 text-soft">
          Nothing yet. Add a heading, a text, or a figure of one of your shots.
        </p>
      )}
      <AddBlock />
    </section>
  );
}

interface LineProps {
  block: Block;
  says: string;
  isChosen: boolean;
  isTroubled: boolean;
}

function OutlineLine({ block, says, isChosen, isTroubled }: LineProps) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition } = useSortable({
    id: block.id,
  });
  const Icon = icons[block.kind] ?? FileQuestion;
  const isHeading = block.kind === 'heading';
  const indent = isHeading ? (block.level === 2 ? 'pl-3' : '') : 'pl-5';
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`rounded-md ${isChosen ? 'bg-sheet ring-1 ring-rule' : ''}`}
    >
      <div className={`group flex items-center ${indent}`}>
        <button
          type="button"
          className={`flex min-w-0 flex-1 items-center gap-2 rounded-md px-2 py-1 text-left hover:bg-sunk ${isHeading ? 'font-semibold' : ''}`}
          aria-expanded={isChosen}
          onClick={() => choose(isChosen ? null : block.id)}
        >
          <Icon size={15} className="shrink-0 text-soft" />
          <span className="truncate">{says}</span>
          {block.readers !== null && (
            <span className="ml-auto shrink-0 text-xs font-normal text-soft">{block.readers.join(', ')}</span>
          )}
          {isTroubled && (
            <TriangleAlert
              size={14}
              aria-label="Something is not right here"
              className="shrink-0 text-accent"
            />
          )}
        </button>
        <button
          type="button"
          ref={setActivatorNodeRef}
          {...attributes}
          {...listeners}
          className="mark size-7 cursor-grab touch-none opacity-40 group-hover:opacity-100 focus-visible:opacity-100"
          aria-label={`Move ${says}`}
          title="Drag to another place"
        >
          <GripVertical size={15} />
        </button>
      </div>
      {isChosen && (
        <div className="px-3 pt-1 pb-3">
          <BlockFields block={block} key={showsSource(block) ? block.source : block.id} />
        </div>
      )}
    </li>
  );
}
