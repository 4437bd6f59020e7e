import { Copy, Layers, Trash2 } from 'lucide-react';
import { speak } from '#core/language/sentence.ts';
import { CAPTION_OF_FILM } from '#core/motion/scene-at.ts';
import { type Annotation, annotationKind, annotationKinds } from '#core/scene/annotations/registry.ts';
import { settingOf } from '#core/scene/setting.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { AddKind } from '../AddKind.tsx';
import type { AnyControl } from '../controls/control-props.ts';
import { edit, useDesk, useRun, useScene } from '../desk-store.ts';
import { FoldedSection, useUnfolded } from '../FoldedSection.tsx';
import { Act, ListedLine } from '../ListedLine.tsx';
import { addWords } from './word-edits.ts';

/** Words and marks on the picture, a line each, in the order in which they are painted. */
export function WordsSection() {
  const annotations = useScene().annotations.filter((a) => a.id !== CAPTION_OF_FILM);
  const [open, setOpen] = useUnfolded(useDesk((s) => s.openWords));
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
        <AddKind
          title="Add words or marks"
          kinds={annotationKinds}
          onChoose={(id) => {
            setOpen(true);
            addWords(annotationKind(id));
          }}
        />
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
  const controls = kind.controls as AnyControl[];
  return (
    <ListedLine
      said={speak(kind.phrase.say(annotation, setting) ?? [])}
      visible={visible}
      onVisible={() => edit({ type: 'annotation.change', id, change: { visible: !visible } })}
      open={opened}
      onOpen={(open) => useDesk.setState({ openWords: open ? id : null })}
      controls={controls}
      folded={folded}
      foldedTitle={sayFolded(controls)}
      common={{
        options: annotation,
        at: ['annotations', id],
        setting,
        set: (change, key = null) => edit({ type: 'annotation.change', id, change }, key && `${key}-${id}`),
      }}
      onDelete={() => edit({ type: 'annotation.remove', id })}
    >
      <Act onDo={() => duplicate(annotation)}>
        <Copy size={14} /> Duplicate
      </Act>
      <Act onDo={() => edit({ type: 'annotation.move', id, to: scene.annotations.length - 1 })}>
        <Layers size={14} /> Over all others
      </Act>
      <Act onDo={() => edit({ type: 'annotation.remove', id })}>
        <Trash2 size={14} /> Delete
      </Act>
    </ListedLine>
  );
}

function sayFolded(controls: readonly AnyControl[]): string {
  const letters = controls.some((c) => c.key === 'weight');
  const place = controls.some((c) => c.key === 'x');
  return letters ? (place ? 'Letters and place' : 'Letters') : 'Size and place';
}

function duplicate(annotation: Annotation): void {
  const id = freshId('words');
  const place = typeof annotation.y === 'number' ? { y: Math.min(1, annotation.y + 0.06) } : {};
  edit({ type: 'annotation.add', annotation: { ...annotation, ...place, id } });
  useDesk.setState({ openWords: id });
}
