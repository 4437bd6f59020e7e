import { Copy, Eye, EyeOff, Layers, Plus, Trash2 } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useEffect, useState } from 'react';
import { speak } from '#core/language/sentence.ts';
import { type Annotation, annotationKind, annotationKinds } from '#core/scene/annotations/registry.ts';
import { settingOf } from '#core/scene/setting.ts';
import { Chooser } from '../Chooser.tsx';
import type { AnyControl } from '../controls/control-props.ts';
import { Controls } from '../controls/OneControl.tsx';
import { edit, freshId, useDesk, useRun, useScene } from '../desk-store.ts';
import { FoldedSection } from '../FoldedSection.tsx';
import { OfferedKinds } from '../OfferedKinds.tsx';
import { addWords } from './word-edits.ts';

/** Words and marks on the picture, a line each, in the order in which they are painted. */
export function WordsSection() {
  const { annotations } = useScene();
  const [open, setOpen] = useState(false);
  const opened = useDesk((s) => s.openWords);
  // What is added elsewhere unfolds them, and they stay so.
  useEffect(() => {
    if (opened !== null) setOpen(true);
  }, [opened]);
  return (
    <FoldedSection
      label="Words and marks"
      title="Words and marks"
      aside={annotations.length > 0 && annotations.length}
      open={open}
      onOpen={setOpen}
    >
      <div className="mt-1 pl-1">
        <ul>
          {annotations.map((annotation) => (
            <WordsLine key={annotation.id} annotation={annotation} />
          ))}
        </ul>
        <AddWords onAdded={() => setOpen(true)} />
      </div>
    </FoldedSection>
  );
}

/** Options that are folded away: how letters look, and where on the picture something stands. */
const folded = new Set(['size', 'weight', 'serif', 'ink', 'ground', 'x', 'y']);

function WordsLine({ annotation }: { annotation: Annotation }) {
  const run = useRun();
  const scene = useScene();
  const opened = useDesk((s) => s.openWords === annotation.id);
  const { id, visible } = annotation;
  const kind = annotationKind(annotation.kind);
  const setting = settingOf(run, scene);
  const said = speak(kind.phrase.say(annotation, setting) ?? []);
  const controls = kind.controls as AnyControl[];
  const common = {
    options: annotation,
    setting,
    set: (change: Record<string, unknown>, key: string | null = null) =>
      edit({ type: 'annotation.change', id, change }, key && `${key}-${id}`),
  };
  return (
    <li className="group/words flex items-start gap-1 rounded-md hover:bg-sunk">
      <button
        type="button"
        className="mark size-7 shrink-0"
        aria-pressed={visible}
        aria-label={visible ? `Hide ${said}` : `Show ${said}`}
        onClick={() => edit({ type: 'annotation.change', id, change: { visible: !visible } })}
      >
        {visible ? <Eye size={15} /> : <EyeOff size={15} />}
      </button>
      <div
        className={`min-w-0 flex-1 py-0.5 font-book text-[15.5px] leading-snug ${visible ? '' : 'opacity-50'}`}
      >
        <Chooser
          wide
          label={`Change ${said}`}
          word={said}
          open={opened}
          onOpen={(open) => useDesk.setState({ openWords: open ? id : null })}
        >
          <Controls controls={controls} only={(c) => !folded.has(c.key)} {...common} />
          {controls.some((c) => folded.has(c.key)) && (
            <details className="mt-2.5" open={controls.every((c) => folded.has(c.key))}>
              <summary className="cursor-pointer text-sm text-soft hover:text-ink">
                {sayFolded(controls)}
              </summary>
              <div className="mt-2">
                <Controls controls={controls} only={(c) => folded.has(c.key)} {...common} />
              </div>
            </details>
          )}
          <div className="mt-3 flex gap-3 border-t border-rule/70 pt-2 text-sm">
            <Act onDo={() => duplicate(annotation)}>
              <Copy size={14} /> Duplicate
            </Act>
            <Act onDo={() => edit({ type: 'annotation.move', id, to: scene.annotations.length - 1 })}>
              <Layers size={14} /> Over all others
            </Act>
            <Act onDo={() => edit({ type: 'annotation.remove', id })}>
              <Trash2 size={14} /> Delete
            </Act>
          </div>
        </Chooser>
      </div>
      <button
        type="button"
        className="mark size-7 shrink-0 opacity-0 group-hover/words:opacity-100 focus-visible:opacity-100"
        aria-label={`Delete ${said}`}
        onClick={() => edit({ type: 'annotation.remove', id })}
      >
        <Trash2 size={14} />
      </button>
    </li>
  );
}

function sayFolded(controls: readonly AnyControl[]): string {
  const letters = controls.some((c) => c.key === 'weight');
  const place = controls.some((c) => c.key === 'x');
  return letters ? (place ? 'Letters and place' : 'Letters') : 'Size and place';
}

function Act({ onDo, children }: { onDo(): void; children: React.ReactNode }) {
  return (
    <button type="button" className="flex items-center gap-1 text-soft hover:text-accent" onClick={onDo}>
      {children}
    </button>
  );
}

function duplicate(annotation: Annotation): void {
  const id = freshId('words');
  const place = typeof annotation.y === 'number' ? { y: Math.min(1, annotation.y + 0.06) } : {};
  edit({ type: 'annotation.add', annotation: { ...annotation, ...place, id } });
  useDesk.setState({ openWords: id });
}

/** What kinds there are, each with what it is for. */
function AddWords({ onAdded }: { onAdded(): void }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="mx-1 my-1 inline-flex items-center gap-1.5 rounded-full px-2 py-0.5 font-medium text-accent hover:bg-accent-wash">
        <Plus size={15} /> Add words or marks
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="right"
          align="end"
          sideOffset={8}
          collisionPadding={12}
          className="card z-50 max-h-[86vh] w-[400px] overflow-y-auto p-3"
          // What was added opens its own settings.
          onCloseAutoFocus={(e) => e.preventDefault()}
        >
          <OfferedKinds
            kinds={annotationKinds.map((kind) => ({
              id: kind.id,
              name: kind.offered,
              purpose: kind.purpose,
            }))}
            onChoose={({ id }) => {
              setOpen(false);
              onAdded();
              addWords(annotationKind(id));
            }}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
