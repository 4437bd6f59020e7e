import { useRef, useState } from 'react';
import { speak } from '#core/language/sentence.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { Annotation, Layer, Scene } from '#core/scene/document.ts';
import { inFull, openQuestion } from '#core/scene/explain-sentence.ts';
import { layerSentence } from '#core/scene/layer-sentence.ts';
import { type ReadLayer, readLayer } from '#core/scene/read-layer.ts';
import type { Beginning } from '#core/scene/ready-beginnings.ts';
import { readWordsSentence } from '#core/scene/scene-script.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { edit, sceneNow, useDesk, useRun, useScene } from './desk-store.ts';
import { addNewLayer } from './layer-edits.ts';
import { SentenceField } from './SentenceField.tsx';

interface Props {
  /** The layer that is edited as text, or null for a new one. */
  layer: Layer | null;
  onDone(): void;
  /** What is typed asks for a quantity of which a value is still to be found. */
  onAsk?(begun: Beginning): void;
}

/** A line, or words on the picture, to type; see `SentenceField`. */
export function SentenceInput({ layer, onDone, onAsk }: Props) {
  const run = useRun();
  const scene = useScene();
  const [text, setText] = useState(() => (layer ? speak(layerSentence(layer, scene, run, 'typed')) : ''));
  const atFirst = useRef(text);
  const id = useRef(freshId('layer'));
  const freshWords = useRef(freshId('words'));
  // Words and marks are typed as lines are.
  const words = layer ? null : readWordsSentence(text, scene, run, freshWords.current);
  const read: ReadLayer | { annotation: Annotation } =
    words ?? readLayer(text, scene, run, layer, id.current);
  const begun = onAsk && 'at' in read ? openQuestion(text, scene, run) : null;
  const meant = layer ? null : readAs(text, read, scene, run);
  const confirm = () => {
    // What was not touched keeps all digits it has.
    if (layer && text === atFirst.current) return onDone();
    if (begun) return onAsk?.(begun);
    if ('annotation' in read) {
      edit({ type: 'annotation.add', annotation: read.annotation });
      return onDone();
    }
    const now = readLayer(text, sceneNow(), run, layer, id.current);
    if (!('layer' in now)) return;
    const scale = now.scale ?? undefined;
    if (layer) {
      const { id: own, ...change } = now.layer;
      edit({ type: 'layer.change', id: own, change, scale });
    } else {
      addNewLayer(now.layer, scale);
      useDesk.setState({ openLayer: now.layer.id });
    }
    onDone();
  };
  return (
    <SentenceField
      label={layer ? 'The sentence of this line' : 'A new line'}
      placeholder="Section of … at z = …"
      text={text}
      onText={setText}
      notRead={'at' in read && !begun ? read : null}
      readAs={
        begun ? `isosurface of ${begun.quantity.name}, at a value chosen when its range is known` : meant
      }
      confirmWord={layer ? 'Change' : 'Add'}
      onConfirm={confirm}
      onDone={onDone}
    />
  );
}

/** The sentence as it is understood, where everyday words were taken for ours; null where it says that itself. */
function readAs(
  text: string,
  read: ReadLayer | { annotation: Annotation },
  scene: Scene,
  run: RunDescription,
): string | null {
  if (!('layer' in read)) return null;
  const said = inFull(read, scene, run, 'reader');
  const plain = (t: string) => t.toLowerCase().replace(/[\s,.]+/g, '');
  return plain(said).startsWith(plain(text)) ? null : said;
}
