import { useContext, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { namesToKnow, ownNames } from '#core/fields/condition.ts';
import { formulaProposals, type KnownName, pieceAt } from '#core/fields/formula/complete-formula.ts';
import { isNameless } from '#core/fields/formula/expanded-formula.ts';
import { MEASURED } from '#core/fields/formula/formula-tree.ts';
import { type ReadyFormula, readyFormulas } from '#core/fields/formula/ready-formulas.ts';
import { setsOutOf } from '#core/fields/formula/sets-in-sentences.ts';
import { sayQuantity } from '#core/language/sentence.ts';
import { whyNotRead } from '#core/language/sentence-reader.ts';
import { nameWithoutUnit } from '#core/model/quantity.ts';
import type { RunDescription } from '#core/model/run.ts';
import { unusedName } from '#core/model/unused-name.ts';
import { sayAsk } from '#core/scene/ask.ts';
import type { Scene, SceneQuantity } from '#core/scene/document.ts';
import { givesCurve } from '#core/scene/gauge-label.ts';
import { wholeChain } from '#core/scene/layer-chain.ts';
import {
  formulaKeyIn,
  type OwnNames,
  runsToOpen,
  sentencesToMeasure,
  troubleOfFormula,
  withSceneQuantities,
} from '#core/scene/named-quantities.ts';
import { readAsk } from '#core/scene/read-ask.ts';
import { edit, useRun, useScene } from '../desk-store.ts';
import { FindingContext, type FormulaValues } from '../finding-context.ts';
import { useOtherRuns } from '../other-runs.ts';
import { ProposalPills } from '../ProposalPills.tsx';

interface Props {
  draft: SceneQuantity;
  onDone(): void;
}

/** Everything a formula may name, with what it is. */
function namesIn(run: RunDescription, scene: Scene): KnownName[] {
  const shape = (components: number): string =>
    components === 1 ? '' : components <= 3 ? 'vector' : 'tensor';
  return [
    ...run.fields
      .filter((f) => !isNameless(f))
      .map((f) => ({
        name: nameWithoutUnit(f.name),
        says: [shape(f.components), f.unit].filter(Boolean).join(', '),
      })),
    ...ownNames.map((name) => ({ name, says: OWN[name] })),
    { name: 'time', says: run.timeUnit ?? '' },
    { name: 'step', says: 'number of the step' },
    ...Object.entries(run.parameters).flatMap(([name, value]) =>
      typeof value === 'number' ? [{ name, says: String(value) }] : [],
    ),
    ...run.sets.map((s) => ({ name: s.name, says: 'part set, 1 inside' })),
    ...scene.gauges
      .filter((g) => g.name !== null && !givesCurve(g))
      .map((g) => {
        // A line is known in its scene alone: what it is made of is said.
        const on = { ...g.on, ...wholeChain(g.on, scene), from: null };
        const asked = sayAsk({ ...g, on }, { ...scene, quantities: [] }, run);
        return { name: g.name!, says: `the gauge: ${asked}`, text: `${MEASURED}(${JSON.stringify(asked)})` };
      }),
  ];
}

const OWN: Record<string, string> = {
  x: 'place',
  y: 'place',
  z: 'place',
  id: 'number of the point or cell',
  type: 'type of the cell',
  part: 'name of the part',
};

/** The quantities a quantity may be made of: those before it. */
const before = ({ id }: SceneQuantity, { quantities }: Scene): Scene['quantities'] => {
  const at = quantities.findIndex((q) => q.id === id);
  return at < 0 ? quantities : quantities.slice(0, at);
};

/** Why a name cannot be that of a quantity; null where it can. */
function troubleOfName(name: string, draft: SceneQuantity, scene: Scene, run: RunDescription): string | null {
  if (name.trim() === '') return 'It needs a name.';
  if (/["[\]]/.test(name)) return 'A name has no brackets and no quotation marks.';
  const same = (other: string): boolean => nameWithoutUnit(other).toLowerCase() === name.trim().toLowerCase();
  const own = scene.quantities.find((q) => q.id === draft.id)?.name;
  const taken =
    scene.quantities.some((q) => q.id !== draft.id && same(q.name)) ||
    run.fields.some((f) => same(f.name) && f.name !== own) ||
    ownNames.some(same);
  return taken ? `There is a quantity "${name.trim()}" already.` : null;
}

/** A quantity by its name and formula, with what could stand where one types, and what it comes to. */
export function FormulaField({ draft, onDone }: Props) {
  const plainRun = useRun();
  const scene = useScene();
  const [name, setName] = useState(draft.name);
  const [formula, setFormula] = useState(draft.formula);
  const [mark, setMark] = useState<[from: number, to: number]>([draft.formula.length, draft.formula.length]);
  const [chosen, setChosen] = useState(0);
  const first = useRef<HTMLInputElement>(null);
  const input = useRef<HTMLTextAreaElement>(null);
  const card = useRef<HTMLDivElement>(null);
  /** Where the caret goes once what was taken stands there. */
  const put = useRef<number | null>(null);
  // The same list as long as it says the same: what the run has with it is worked out once.
  const earlier = useMemo(
    () => ({ quantities: before(draft, scene), sets: scene.sets }),
    [draft, scene.quantities, scene.sets],
  );
  const run = withSceneQuantities(plainRun, earlier);
  const names = useMemo(() => namesIn(run, scene), [run, scene.gauges]);
  const [from, to] = mark;
  const others = useOtherRuns();
  const proposed =
    from === to
      ? formulaProposals(
          formula,
          to,
          names,
          others.map((r) => r.name),
        )
      : null;
  // While a name is begun, that it is none yet is not worth saying.
  const begun = proposed?.piece.text.toLowerCase();
  const unfinished = begun !== undefined && !names.some((n) => n.name.toLowerCase() === begun);
  const { waiting, trouble: wrongSentence } = useNumbers(formula, earlier, run);
  const trouble = formula.trim() === '' ? null : (wrongSentence ?? troubleOfFormula(formula, earlier, run));
  const wrongName = name === '' && formula.trim() === '' ? null : troubleOfName(name, draft, scene, run);
  const looked =
    from < to ? formula.slice(from, to) : (pieceAt(formula, to, namesToKnow(run.fields))?.text ?? '');
  const piece = looked.trim() !== formula.trim() ? looked : '';
  const ofPiece = useValues(piece, earlier, run);
  const ofAll = useValues(trouble ? '' : formula, earlier, run);
  useEffect(() => first.current?.focus(), []);
  useEffect(() => setChosen(0), [formula]);
  useLayoutEffect(() => {
    if (put.current === null) return;
    input.current?.focus();
    input.current?.setSelectionRange(put.current, put.current);
    put.current = null;
  }, [formula]);
  const proposing = proposed !== null;
  useEffect(() => {
    void card.current?.scrollIntoView({ block: 'nearest' });
  }, [proposing]);
  const take = (text: string): void => {
    if (!proposed) return;
    const { piece: word } = proposed;
    const next = `${formula.slice(0, word.from)}${text}${formula.slice(word.to)}`;
    const caret = word.from + text.length;
    setFormula(next);
    setMark([caret, caret]);
    put.current = caret;
  };
  const ready = formula.trim() !== '' && !trouble && !wrongName && !waiting;
  const save = (): void => {
    if (!ready) return;
    edit({ type: 'quantity.save', quantity: { id: draft.id, name: name.trim(), formula: formula.trim() } });
    onDone();
  };
  return (
    <div ref={card} className="mt-1 rounded-md border border-rule p-2">
      <input
        aria-label="Name of the quantity"
        className="field w-full"
        placeholder="name, such as excess temperature"
        value={name}
        ref={first}
        onChange={(e) => setName(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Escape') onDone();
          if (e.key === 'Enter') input.current?.focus();
          e.stopPropagation();
        }}
      />
      <textarea
        ref={input}
        aria-label="Formula of the quantity"
        aria-invalid={trouble !== null}
        rows={Math.max(2, Math.ceil(formula.length / 34))}
        className="mt-1.5 block w-full resize-none rounded-md border border-rule bg-transparent px-2 py-1.5 font-book text-[16px] leading-[1.4] outline-none focus:border-accent"
        placeholder="temperature - 20 °C"
        value={formula}
        spellCheck={false}
        onChange={(e) => {
          setFormula(e.target.value.replace(/\n/g, ' '));
          setMark([e.target.selectionStart, e.target.selectionEnd]);
        }}
        onSelect={(e) => setMark([e.currentTarget.selectionStart, e.currentTarget.selectionEnd])}
        onKeyDown={(e) => {
          const count = proposed?.proposals.length ?? 0;
          if (e.key === 'Escape') onDone();
          else if ((e.key === 'ArrowDown' || e.key === 'ArrowUp') && count > 0) {
            e.preventDefault();
            setChosen((chosen + (e.key === 'ArrowDown' ? 1 : -1) + count) % count);
          } else if (e.key === 'Tab' && count > 0) {
            e.preventDefault();
            take(proposed!.proposals[chosen].text);
          } else if (e.key === 'Enter') {
            e.preventDefault();
            save();
          }
          e.stopPropagation();
        }}
      />
      {proposed && (
        <ProposalPills proposals={proposed.proposals} chosen={chosen} onTake={({ text }) => take(text)} />
      )}
      {proposed?.proposals[chosen]?.says && (
        <p className="mt-1 text-xs text-soft">
          {proposed.proposals[chosen].text}: {proposed.proposals[chosen].says}
        </p>
      )}
      {formula.trim() === '' && (
        <ReadyOnes
          run={run}
          onTake={(ready) => {
            setName(freeName(ready.name, run));
            setFormula(ready.formula);
            put.current = ready.formula.length;
            setMark([ready.formula.length, ready.formula.length]);
          }}
        />
      )}
      {piece !== '' && ofPiece && <Values what={piece} values={ofPiece} />}
      {ofAll && <Values what="It" values={ofAll} />}
      {waiting && (
        <p role="status" className="mt-1 text-xs text-soft">
          {waiting}
        </p>
      )}
      {trouble && !unfinished && (
        <p role="alert" className="mt-1 text-xs text-warn">
          {trouble}
        </p>
      )}
      {wrongName && formula.trim() !== '' && <p className="mt-1 text-xs text-warn">{wrongName}</p>}
      <div className="mt-1.5 flex items-center gap-2 text-xs text-soft">
        <button type="button" className="quiet h-7" disabled={!ready} onClick={save}>
          Save
        </button>
        <button type="button" className="quiet h-7" onClick={onDone}>
          Leave
        </button>
        <span>Tab completes, Enter saves</span>
      </div>
    </div>
  );
}

/** Formulas that are often wanted, as far as the run has what they are made from. */
function ReadyOnes({ run, onTake }: { run: RunDescription; onTake(ready: ReadyFormula): void }) {
  const ready = readyFormulas(run);
  if (ready.length === 0) return null;
  return (
    <div className="mt-1.5">
      <p className="text-xs text-soft">or begin with</p>
      <div className="mt-0.5 flex flex-wrap gap-1">
        {ready.map((one) => (
          <button
            key={one.name}
            type="button"
            title={`${one.says}: ${one.formula}`}
            className="rounded-full border border-rule px-2 py-0.5 text-xs hover:border-soft"
            onClick={() => onTake(one)}
          >
            {one.name}
          </button>
        ))}
      </div>
    </div>
  );
}

/** A name that no quantity has yet. */
const freeName = (wanted: string, run: RunDescription): string =>
  unusedName(wanted, (name) => run.fields.some((f) => nameWithoutUnit(f.name) === name));

/** What a formula, or a piece of it, comes to at the step on show. */
function Values({ what, values }: { what: string; values: FormulaValues }) {
  const { low, high, unit, missing, vector, unsure } = values;
  const size = vector ? ', by its length' : '';
  const named = unit === null ? ' (unit not known)' : '';
  return (
    <p className="mt-1 text-xs text-soft">
      <span className="font-medium text-ink">{what}</span>
      {low === null || high === null
        ? ' has no value anywhere'
        : low === high
          ? ` is ${sayQuantity(low, unit)}${size}${named}`
          : ` goes from ${sayQuantity(low, unit)} to ${sayQuantity(high, unit)}${size}${named}`}
      {unsure && <span className="text-warn">; {unsure}</span>}
      {missing > 0 && (
        <span className="text-warn">
          ; {missing} {missing === 1 ? 'place has' : 'places have'} no value: divided by zero, or no number
        </span>
      )}
    </p>
  );
}

/** Milliseconds without a letter typed until something is computed. */
const PAUSE = 250;

/**
 * Has the numbers measured that a formula asks for, and the runs opened that it looks at.
 *
 * @returns what is waited for, or why a sentence is not understood
 */
function useNumbers(
  formula: string,
  own: OwnNames<SceneQuantity>,
  run: RunDescription,
): { waiting: string | null; trouble: string | null } {
  const finding = useContext(FindingContext);
  const scene = useScene();
  const [failed, setFailed] = useState<{ of: string; trouble: string } | null>(null);
  const wanted = useMemo(() => sentencesToMeasure(formula, own, run), [formula, own, run]);
  const wrong = useMemo(() => {
    for (const whole of wanted) {
      const { sentence, sets } = setsOutOf(whole);
      const read = readAsk(sentence, { ...scene, quantities: [], sets }, run);
      if ('at' in read) return `“${sentence}”: ${whyNotRead(sentence, read)}.`;
    }
    return null;
  }, [wanted, run]);
  const others = useMemo(() => runsToOpen(formula, own, run), [formula, own, run]);
  const asked = wrong ? '' : [...others, ...wanted].join('\n');
  useEffect(() => {
    if (asked === '') return;
    const timer = setTimeout(() => {
      finding
        .numbers([formulaKeyIn(formula, own)])
        .catch((error: Error) => setFailed({ of: asked, trouble: error.message }));
    }, PAUSE);
    return () => clearTimeout(timer);
  }, [asked, finding]);
  const trouble = wrong ?? (failed?.of === asked && asked !== '' ? failed.trouble : null);
  const waiting =
    others.length > 0
      ? `Opening the run “${others[0]}”.`
      : wanted.length > 0
        ? `Measuring “${setsOutOf(wanted[0]).sentence}” at every step.`
        : null;
  return { waiting: trouble === null ? waiting : null, trouble };
}

/** What a formula comes to, a moment after it was typed; null for none, and while it is not known. */
function useValues(formula: string, own: OwnNames<SceneQuantity>, run: RunDescription): FormulaValues | null {
  const finding = useContext(FindingContext);
  const [found, setFound] = useState<{ of: string; values: FormulaValues | null } | null>(null);
  const wanted = formula.trim();
  const can =
    wanted !== '' &&
    sentencesToMeasure(wanted, own, run).length === 0 &&
    runsToOpen(wanted, own, run).length === 0 &&
    troubleOfFormula(wanted, own, run) === null;
  useEffect(() => {
    if (!can) return;
    let left = false;
    const timer = setTimeout(async () => {
      const values = await finding.formula(wanted, own).catch(() => null);
      if (!left) setFound({ of: wanted, values });
    }, PAUSE);
    return () => {
      left = true;
      clearTimeout(timer);
    };
  }, [wanted, can, finding]);
  return can && found?.of === wanted ? found.values : null;
}
