import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { sayRule } from '#core/fields/part-set.ts';
import { boundsCentre } from '#core/model/mesh.ts';
import { type RunDescription, runBounds } from '#core/model/run.ts';
import type { SetRule } from '#core/model/set-rule.ts';
import type { Scene, SceneSet } from '#core/scene/document.ts';
import { ruleOfSet, wholeChain } from '#core/scene/layer-chain.ts';
import { freshLayer } from '#core/scene/read-layer.ts';
import { quantitiesOf, settingOf } from '#core/scene/setting.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { NumberField } from './Chooser.tsx';
import { edit, sceneNow, useDesk, useRun, useScene } from './desk-store.ts';
import { FoldedSection } from './FoldedSection.tsx';
import { roundTo } from './round-to.ts';

const nameOf =
  (run: RunDescription) =>
  (field: string, component: number | 'magnitude'): string =>
    quantitiesOf(run).find((q) => q.field === field && q.component === component)?.name ?? field;

/** The saved subsets of the run: those of its files, and those made here. */
export function PartSets() {
  const run = useRun();
  const scene = useScene();
  const draft = useDesk((s) => s.draft);
  const [open, setOpen] = useState(false);
  const all = [
    ...scene.sets.map((s) => ({ name: s.name, says: sayRule(s.rule, nameOf(run)), own: true })),
    ...run.sets.map((s) => ({ name: s.name, says: 'from the files', own: false })),
  ];
  return (
    <FoldedSection
      label="Part sets"
      title="Part sets"
      aside={all.length > 0 && all.length}
      open={open || draft !== null}
      onOpen={setOpen}
    >
      <div className="mt-1 pl-2">
        <ul>
          {all.map(({ name, says, own }) => (
            <li key={name} className="group/set flex items-start gap-2 rounded-md px-1 py-0.5 hover:bg-sunk">
              <div className="min-w-0 flex-1">
                <p className="truncate font-medium">{name}</p>
                <p className="text-xs text-soft">{says}</p>
              </div>
              <button
                type="button"
                className="mark size-7"
                aria-label={`New line of ${name}`}
                title="Show it in a line of its own"
                onClick={() => addSetLayer(name, run)}
              >
                <Plus size={15} />
              </button>
              {own && (
                <button
                  type="button"
                  className="mark size-7"
                  aria-label={`Delete ${name}`}
                  onClick={() => edit({ type: 'set.remove', name })}
                >
                  <Trash2 size={14} />
                </button>
              )}
            </li>
          ))}
        </ul>
        {draft ? (
          <DraftSet draft={draft} />
        ) : (
          <button
            type="button"
            className="px-1 py-1 text-sm font-medium text-accent hover:underline"
            onClick={() =>
              useDesk.setState({ draft: { name: freshName(scene, run), rule: newRule('box', run, scene) } })
            }
          >
            + new set …
          </button>
        )}
      </div>
    </FoldedSection>
  );
}

function addSetLayer(name: string, run: RunDescription): void {
  const layer = {
    ...freshLayer(run, freshId('layer')),
    set: name,
    colour: { kind: 'plain' as const, colour: '#b4733f' },
  };
  edit({ type: 'layer.add', layer });
  useDesk.setState({ openLayer: layer.id });
}

function freshName(scene: Scene, run: RunDescription): string {
  const taken = [...scene.sets, ...run.sets].map((s) => s.name);
  for (let i = 1; ; i++) if (!taken.includes(`set ${i}`)) return `set ${i}`;
}

const kinds: { kind: SetRule['kind']; label: string }[] = [
  { kind: 'box', label: 'a box' },
  { kind: 'cells', label: 'cells, by brush or rectangle' },
  { kind: 'region', label: 'what hangs together' },
  { kind: 'range', label: 'a range of values' },
  { kind: 'condition', label: 'a condition' },
  { kind: 'parts', label: 'parts' },
  { kind: 'union', label: 'this or that set' },
  { kind: 'intersection', label: 'both of two sets' },
  { kind: 'difference', label: 'one set without another' },
  { kind: 'complement', label: 'all but a set' },
];

function newRule(kind: SetRule['kind'], run: RunDescription, scene: Scene): SetRule {
  const b = runBounds(run);
  const centre = boundsCentre(b);
  const share = (k: number, s: number): number =>
    roundTo(centre[k] + s * (b[2 * k + 1] - b[2 * k]), b[2 * k + 1] - b[2 * k] || 1);
  const q = settingOf(run, scene).preferred ?? quantitiesOf(run)[0];
  const [first, second] = [...scene.sets, ...run.sets].map((s) => ruleOfSet(s.name, scene, run)!);
  switch (kind) {
    case 'box':
      return {
        kind,
        low: [share(0, -0.25), share(1, -0.25), share(2, -0.25)],
        high: [share(0, 0.25), share(1, 0.25), share(2, 0.25)],
      };
    case 'range':
      return {
        kind,
        field: q?.field ?? '',
        component: q?.component ?? 0,
        low: roundTo(q ? (q.low + q.high) / 2 : 0, q ? q.high - q.low : 1),
        high: q?.high ?? 1,
        when: 'each step',
      };
    case 'condition':
      return { kind, condition: `x > ${centre[0]}`, when: 'each step' };
    case 'cells':
      return { kind, cells: {} };
    case 'region':
      return { kind, part: '', cell: 0 };
    case 'complement':
      return { kind, of: [first ?? { kind: 'parts', parts: [] }] };
    case 'union':
    case 'intersection':
    case 'difference':
      return {
        kind,
        of: [first ?? { kind: 'parts', parts: [] }, second ?? first ?? { kind: 'parts', parts: [] }],
      };
    default:
      return { kind: 'parts', parts: visibleParts(run, scene) };
  }
}

/** Parts that some visible line shows and that are not hidden. */
function visibleParts(run: RunDescription, scene: Scene): string[] {
  const lines = scene.layers.filter((l) => l.visible && l.opacity > 0).map((l) => wholeChain(l, scene));
  return run.parts
    .map((p) => p.name)
    .filter((name) => !scene.parts[name]?.hidden)
    .filter((name) => lines.some((l) => l.parts === null || l.parts.includes(name)));
}

/** The set that is being made: its cells are lit up on the picture until it is saved or left. */
function DraftSet({ draft }: { draft: SceneSet }) {
  const run = useRun();
  const scene = useScene();
  const news = useDesk((s) => s.news['draft-set']);
  const { rule } = draft;
  const put = (next: SetRule) => useDesk.setState({ draft: { ...draft, rule: next } });
  const leave = () => useDesk.setState({ draft: null, pointing: null });
  const sets = [...scene.sets, ...run.sets].map((s) => s.name);
  const taken = sets.includes(draft.name) && !scene.sets.some((s) => s.name === draft.name);
  return (
    <div className="mt-1 flex flex-col gap-2 rounded-md border border-accent/50 bg-sheet p-2">
      <label className="flex items-center gap-2">
        <span className="w-12 text-soft">Name</span>
        <input
          className="field h-7 min-w-0 flex-1"
          value={draft.name}
          onChange={(e) => useDesk.setState({ draft: { ...draft, name: e.target.value } })}
          onKeyDown={(e) => e.key === 'Escape' && leave()}
        />
      </label>
      <label className="flex items-center gap-2">
        <span className="w-12 text-soft">From</span>
        <select
          aria-label="What the set is made from"
          className="field h-7 min-w-0 flex-1"
          value={rule.kind}
          onChange={(e) => {
            useDesk.setState({ pointing: null });
            put(newRule(e.target.value as SetRule['kind'], run, scene));
          }}
        >
          {kinds
            .filter(
              ({ kind }) =>
                sets.length > 0 || !['union', 'intersection', 'difference', 'complement'].includes(kind),
            )
            .map(({ kind, label }) => (
              <option key={kind} value={kind}>
                {label}
              </option>
            ))}
        </select>
      </label>
      <RuleFields rule={rule} put={put} />
      {news && (
        <p className={`text-xs ${news.trouble ? 'text-warn' : 'text-soft'}`} role="status">
          {news.trouble ??
            (news.report.kept !== undefined
              ? `${news.report.kept.toLocaleString('en-GB')} of ${news.report.of?.toLocaleString('en-GB')} cells`
              : 'no cells yet')}
        </p>
      )}
      {taken && <p className="text-xs text-warn">A set of the files has this name; choose another.</p>}
      <div className="flex gap-2">
        <button
          type="button"
          className="act h-8"
          disabled={draft.name.trim() === '' || taken}
          onClick={() => {
            edit({ type: 'set.save', set: { ...draft, name: draft.name.trim() } });
            leave();
          }}
        >
          Save the set
        </button>
        <button type="button" className="quiet h-8" onClick={leave}>
          Leave
        </button>
      </div>
    </div>
  );
}

function RuleFields({ rule, put }: { rule: SetRule; put(rule: SetRule): void }) {
  const run = useRun();
  const scene = useScene();
  const pointing = useDesk((s) => s.pointing);
  switch (rule.kind) {
    case 'box':
      return (
        <>
          {(['low', 'high'] as const).map((end) => (
            <div key={end} className="flex items-center gap-1">
              <span className="w-12 text-soft">{end === 'low' ? 'from' : 'to'}</span>
              {rule[end].map((v, k) => (
                <input
                  key={`${k}-${v}`}
                  aria-label={`${end} ${'xyz'[k]}`}
                  className="field h-7 w-14 min-w-0 flex-1 px-1.5 tabular-nums"
                  defaultValue={v}
                  onBlur={(e) => {
                    const typed = Number(e.target.value);
                    if (!Number.isFinite(typed)) return;
                    const next = [...rule[end]] as [number, number, number];
                    next[k] = typed;
                    put({ ...rule, [end]: next });
                  }}
                  onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
                />
              ))}
            </div>
          ))}
          <p className="text-xs text-soft">Its two corners can be dragged on the picture.</p>
        </>
      );
    case 'cells': {
      const begin = (brush: boolean) =>
        useDesk.setState({
          pointing: {
            says: brush
              ? 'Brush over cells; Escape ends it.'
              : 'Drag a rectangle over cells; Escape ends it.',
            brush,
            onPick(picked, cell) {
              if (cell !== null) addCells({ [picked.part]: [cell] });
              return false;
            },
            onRectangle: brush ? undefined : addCells,
          },
        });
      return (
        <div className="flex flex-wrap gap-1">
          <button
            type="button"
            className="quiet h-7"
            aria-pressed={pointing?.brush === false}
            onClick={() => begin(false)}
          >
            Rectangle
          </button>
          <button
            type="button"
            className="quiet h-7"
            aria-pressed={pointing?.brush === true}
            onClick={() => begin(true)}
          >
            Brush
          </button>
          <button type="button" className="quiet h-7" onClick={() => put({ kind: 'cells', cells: {} })}>
            None
          </button>
        </div>
      );
    }
    case 'region':
      return (
        <button
          type="button"
          className="quiet h-7"
          onClick={() =>
            useDesk.setState({
              pointing: {
                says: 'Click a cell; all that hangs together with it is taken.',
                onPick(picked, cell) {
                  if (cell === null) return false;
                  put({ kind: 'region', part: picked.part, cell });
                  return true;
                },
              },
            })
          }
        >
          {rule.part ? `Around cell ${rule.cell} of ${rule.part}: choose another` : 'Point at a cell'}
        </button>
      );
    case 'range': {
      const choices = quantitiesOf(run);
      const at = choices.findIndex((q) => q.field === rule.field && q.component === rule.component);
      return (
        <>
          <select
            aria-label="Of"
            className="field h-7"
            value={at}
            onChange={(e) => {
              const q = choices[Number(e.target.value)];
              put({
                ...rule,
                field: q.field,
                component: q.component,
                low: (q.low + q.high) / 2,
                high: q.high,
              });
            }}
          >
            {choices.map((q, i) => (
              <option key={q.name} value={i}>
                {q.name}
              </option>
            ))}
          </select>
          <div className="flex gap-2">
            <NumberField label="from" value={rule.low} onChange={(low) => put({ ...rule, low })} />
            <NumberField label="to" value={rule.high} onChange={(high) => put({ ...rule, high })} />
          </div>
          <WhenField rule={rule} put={put} />
        </>
      );
    }
    case 'condition':
      return (
        <>
          <textarea
            key={rule.condition}
            rows={2}
            aria-label="Condition"
            className="field h-auto w-full py-1 font-mono text-xs"
            defaultValue={rule.condition}
            onBlur={(e) => put({ ...rule, condition: e.target.value })}
          />
          <WhenField rule={rule} put={put} />
        </>
      );
    case 'parts':
      return (
        <div className="max-h-40 overflow-y-auto">
          {run.parts.map(({ name }) => (
            <label key={name} className="flex items-center gap-2">
              <input
                type="checkbox"
                className="size-4 accent-accent"
                checked={rule.parts.includes(name)}
                onChange={(e) =>
                  put({
                    ...rule,
                    parts: e.target.checked ? [...rule.parts, name] : rule.parts.filter((p) => p !== name),
                  })
                }
              />
              {name}
            </label>
          ))}
        </div>
      );
    case 'group':
      return null;
    default: {
      const names = [...scene.sets, ...run.sets].map((s) => s.name);
      const rules = names.map((n) => JSON.stringify(ruleOfSet(n, scene, run)));
      return (
        <>
          {rule.of.map((own, i) => (
            <select
              key={i}
              aria-label={`Set ${i + 1}`}
              className="field h-7"
              value={rules.indexOf(JSON.stringify(own))}
              onChange={(e) => {
                const of = rule.of.map((r, j) =>
                  j === i ? ruleOfSet(names[Number(e.target.value)], sceneNow(), run)! : r,
                );
                put({ ...rule, of } as SetRule);
              }}
            >
              {names.map((n, k) => (
                <option key={n} value={k}>
                  {n}
                </option>
              ))}
            </select>
          ))}
        </>
      );
    }
  }
}

/** Adds cells to the set that is being made. */
function addCells(more: Record<string, number[]>): void {
  const { draft } = useDesk.getState();
  if (draft?.rule.kind !== 'cells') return;
  const cells = { ...draft.rule.cells };
  for (const [part, list] of Object.entries(more))
    cells[part] = [...new Set([...(cells[part] ?? []), ...list])].sort((a, b) => a - b);
  useDesk.setState({ draft: { ...draft, rule: { kind: 'cells', cells } } });
}

/** Looked at anew at each step, or frozen as it is now. */
function WhenField({
  rule,
  put,
}: {
  rule: SetRule & { when: 'each step' | number };
  put(rule: SetRule): void;
}) {
  const run = useRun();
  if (run.steps.length < 2) return null;
  return (
    <label className="flex items-center gap-2">
      <input
        type="checkbox"
        className="size-4 accent-accent"
        checked={rule.when !== 'each step'}
        onChange={(e) => put({ ...rule, when: e.target.checked ? sceneNow().step : 'each step' } as SetRule)}
      />
      {rule.when === 'each step' ? 'frozen as it is at this step' : `frozen as at step ${rule.when + 1}`}
    </label>
  );
}
