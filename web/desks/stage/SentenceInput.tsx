import { useEffect, useRef, useState } from 'react';
import { speak } from '#core/language/sentence.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { Annotation, Layer, Scene } from '#core/scene/document.ts';
import { inFull, openQuestion } from '#core/scene/explain-sentence.ts';
import { layerSentence } from '#core/scene/layer-sentence.ts';
import { type ReadLayer, readLayer } from '#core/scene/read-layer.ts';
import type { Beginning } from '#core/scene/ready-beginnings.ts';
import { readWordsSentence } from '#core/scene/scene-script.ts';
import { edit, freshId, sceneNow, useDesk, useRun, useScene } from './desk-store.ts';
import { addNewLayer } from './layer-edits.ts';
import { withProposal } from './with-proposal.ts';

interface Props {
  /** The layer that is edited as text, or null for a new one. */
  layer: Layer | null;
  onDone(): void;
  /** What is typed asks for a quantity of which a value is still to be found. */
  onAsk?(begun: Beginning): void;
}

/** How many proposals are shown at once. */
const PROPOSALS = 8;

/**
 * A sentence to type. What is understood so far is plain, what is not is underlined, and below it stands what would be
 * understood there; Tab takes the first of these.
 */
export function SentenceInput({ layer, onDone, onAsk }: Props) {
  const run = useRun();
  const scene = useScene();
  const [text, setText] = useState(() => (layer ? speak(layerSentence(layer, scene, run, 'typed')) : ''));
  const atFirst = useRef(text);
  const [caret, setCaret] = useState(text.length);
  const [chosen, setChosen] = useState(0);
  const input = useRef<HTMLTextAreaElement>(null);
  const id = useRef(freshId('layer'));
  const freshWords = useRef(freshId('words'));
  // Words and marks are typed as lines are.
  const words = layer ? null : readWordsSentence(text, scene, run, freshWords.current);
  const read: ReadLayer | { annotation: Annotation } =
    words ?? readLayer(text, scene, run, layer, id.current);
  const begun = onAsk && 'at' in read ? openQuestion(text, scene, run) : null;
  const proposals = begun ? [] : proposalsAt(text, caret, read);
  const meant = layer ? null : readAs(text, read, scene, run);
  const refused = 'at' in read && !begun ? read.refused : undefined;
  const isRead = !('at' in read) || begun !== null;
  useEffect(() => setChosen(0), [text]);
  useEffect(() => input.current?.focus(), []);

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
  const take = (proposal: Proposal) => {
    input.current?.focus();
    // What only says what is wanted is no words to be put in.
    if (proposal.says) return;
    const next = withProposal(text, proposal);
    setText(next);
    setCaret(next.length);
  };

  return (
    <div className="relative">
      <div className="relative font-book text-[16px] leading-[1.4]">
        <div
          aria-hidden="true"
          className="pointer-events-none absolute inset-0 px-2 py-1.5 break-words whitespace-pre-wrap text-transparent"
        >
          {'at' in read && !begun ? (
            <>
              {text.slice(0, read.at)}
              <span className="underline decoration-warn decoration-wavy underline-offset-4">
                {text.slice(read.at) || ' '}
              </span>
            </>
          ) : (
            text
          )}
        </div>
        <textarea
          ref={input}
          aria-label={layer ? 'The sentence of this line' : 'A new line'}
          aria-invalid={!isRead && text !== ''}
          rows={Math.max(2, Math.ceil(text.length / 34))}
          className="relative block w-full resize-none rounded-md border border-rule bg-transparent px-2 py-1.5 outline-none focus:border-accent"
          placeholder="Section of … at z = …"
          value={text}
          spellCheck={false}
          onChange={(e) => {
            setText(e.target.value.replace(/\n/g, ' '));
            setCaret(e.target.selectionStart);
          }}
          onSelect={(e) => setCaret(e.currentTarget.selectionStart)}
          onKeyDown={(e) => {
            if (e.key === 'Escape') onDone();
            else if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
              if (proposals.length === 0) return;
              e.preventDefault();
              const by = e.key === 'ArrowDown' ? 1 : -1;
              setChosen((chosen + by + proposals.length) % proposals.length);
            } else if (e.key === 'Tab' && proposals[chosen]) {
              e.preventDefault();
              take(proposals[chosen]);
            } else if (e.key === 'Enter') {
              e.preventDefault();
              if (isRead) confirm();
              else if (proposals[chosen]) take(proposals[chosen]);
            }
            e.stopPropagation();
          }}
        />
      </div>
      {refused && (
        <p role="alert" className="mt-1 text-xs text-warn">
          {refused.because}.{proposals.length > 0 && ' There could be:'}
        </p>
      )}
      {proposals.length > 0 && (
        <div
          role="listbox"
          tabIndex={-1}
          aria-label="What would be understood"
          className="mt-1 flex flex-wrap gap-1"
        >
          {proposals.map((p, i) => (
            <button
              key={p.text}
              type="button"
              role="option"
              aria-selected={i === chosen}
              className={`rounded-full border px-2 py-0.5 text-xs ${i === chosen ? 'border-accent bg-accent-wash' : 'border-rule hover:border-soft'} ${p.says ? 'italic text-soft' : ''}`}
              onClick={() => take(p)}
            >
              {p.text}
            </button>
          ))}
        </div>
      )}
      {begun && (
        <p className="mt-1.5 text-xs text-soft">
          Read as: isosurface of {begun.quantity.name}, at a value chosen when its range is known
        </p>
      )}
      {meant && <p className="mt-1.5 text-xs text-soft">Read as: {meant}</p>}
      <div className="mt-1.5 flex items-center gap-2 text-xs text-soft">
        <button type="button" className="quiet h-7" disabled={!isRead} onClick={confirm}>
          {layer ? 'Change' : 'Add'}
        </button>
        <button type="button" className="quiet h-7" onClick={onDone}>
          Leave
        </button>
        <span>Tab completes, Enter confirms</span>
      </div>
    </div>
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

interface Proposal {
  text: string;
  /** Where it takes the place of what is typed, and where that ends if it is not the end of it all. */
  from: number;
  to?: number;
  /** It only says what is wanted, like a number. */
  says: boolean;
}

function proposalsAt(text: string, caret: number, read: ReadLayer | { annotation: Annotation }): Proposal[] {
  // The operations stand below anyway as long as nothing is typed.
  if (!('at' in read) || caret < read.at || text.trim() === '') return [];
  const { at: from, refused } = read;
  if (refused)
    return read.expected.slice(0, PROPOSALS).map((e) => ({ text: e, from, to: refused.to, says: false }));
  const typed = text.slice(from, caret).trimStart().toLowerCase();
  return [...new Set(read.expected)]
    .filter((e) => e.toLowerCase().startsWith(typed) || isDescription(e))
    .sort((a, b) => Number(isDescription(a)) - Number(isDescription(b)))
    .slice(0, PROPOSALS)
    .map((e) => ({ text: e, from, says: isDescription(e) }));
}

const isDescription = (wanted: string): boolean =>
  /^(a number|the number|the end|#rrggbb|“a (condition|text)”)/.test(wanted);
