import { useMemo, useState } from 'react';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { sayNumber } from '#core/language/sentence.ts';
import type { RunDescription } from '#core/model/run.ts';
import { sceneMismatches } from '#core/scene/apply-scene.ts';
import type { Scene } from '#core/scene/document.ts';
import { type ScaleFate, usualFate, withScaleFates } from '#core/scene/kept-scales.ts';
import { lackingIn } from '#core/scene/likely-names.ts';
import type { Look } from '#core/scene/looks/look.ts';
import { shippedLooks } from '#core/scene/looks/registry.ts';
import { lookSettingOf, withLook } from '#core/scene/looks/wear-look.ts';
import { onOtherRun, rulesFor } from '#core/scene/on-other-run.ts';
import type { Renames } from '#core/scene/rename-in-scene.ts';
import type { ScaleEnds } from '#core/scene/scale-ends.ts';
import { unitsOfScale } from '#core/scene/settle-scale.ts';
import { ask } from '#engine/server-requests.ts';
import type { ListedRun } from '#web/server/run-sets.ts';
import type { KeptStyle } from '#web/server/styles.ts';
import { likelyNames, NamesMeant } from './NamesMeant.tsx';
import { Pill } from './Pill.tsx';
import { ProblemNote } from './ProblemNote.tsx';
import { useListed } from './use-listed.ts';
import { useWork } from './work-state.ts';

/** Another run under a scene, with all that was decided on the way. */
export interface OtherRun {
  id: string;
  run: RunDescription;
  /** What names mean there. */
  rules: Renames;
  /** A scene as it is to be on it. */
  on(scene: Scene): Scene;
}

interface Props {
  /** Of the scenes as they are. */
  run: RunDescription;
  runId: string;
  /** The scene on show first, with what else goes with it. */
  scenes: readonly Scene[];
  /** Where the scales of the first scene begin and end now. */
  ends: ScaleEnds;
  /** What names are known to mean in other runs. */
  rules: Renames;
  /** What is done with it, on the button. */
  act: string;
  onChoose(other: OtherRun): Promise<void>;
}

/** Chooses another run, settles what its names mean, and whether scales stay as they are or follow it. */
export function OtherRunForm({ run, runId, scenes, ends, rules, act, onChoose }: Props) {
  const runs = useListed<ListedRun>('/api/runs/listed').filter((r) => r.id !== runId);
  const [typed, setTyped] = useState('');
  const [found, setFound] = useState<{ id: string; run: RunDescription } | null>(null);
  const { problem, run: work } = useWork();
  const choose = (id: string) =>
    work('Reading what the run holds', async () => {
      const { description } = await ask<{ description: RunDescription }>(`/api/runs/${id}`);
      setFound({ id, run: withOfferedQuantities(description) });
    });
  const wanted = typed.trim().toLowerCase();
  const near = runs.filter((r) => r.name.toLowerCase().includes(wanted));
  return (
    <div className="flex flex-col gap-3">
      <input
        aria-label="Runs whose names have"
        className="field w-full"
        placeholder="runs whose names have …"
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
      />
      <ul aria-label="Other runs" className="flex max-h-48 flex-col overflow-y-auto">
        {near.slice(0, 200).map(({ id, name, steps }) => (
          <li key={id}>
            <button
              type="button"
              aria-pressed={found?.id === id}
              className={`flex w-full items-baseline gap-2 rounded-md px-2 py-1 text-left hover:bg-sunk ${found?.id === id ? 'bg-accent-wash font-medium' : ''}`}
              onClick={() => choose(id)}
            >
              <span className="truncate">{name}</span>
              <span className="ml-auto shrink-0 text-xs text-soft">
                {steps === 1 ? '1 step' : `${steps} steps`}
              </span>
            </button>
          </li>
        ))}
        {near.length === 0 && (
          <li className="px-2 py-1 text-soft">
            {runs.length === 0 ? 'There is no other run.' : 'No run has that in its name.'}
          </li>
        )}
      </ul>
      {problem && <ProblemNote problem={problem} />}
      {found && (
        <Decide
          key={found.id}
          {...{ run, scenes, ends, rules, act, onChoose }}
          id={found.id}
          to={found.run}
        />
      )}
    </div>
  );
}

type DecideProps = Omit<Props, 'runId'> & { id: string; to: RunDescription };

function Decide({ run, scenes, ends, rules, act, onChoose, id, to }: DecideProps) {
  const [first] = scenes;
  // What is known already is not asked again.
  const known = useMemo(() => rulesFor(to, rules), [to, rules]);
  const lacking = useMemo(
    () =>
      lackingIn(scenes, run, to).filter(
        (l) => !Object.hasOwn(l.kind === 'field' ? known.fields : known.parts, l.asked),
      ),
    [scenes, run, to, known],
  );
  const [names, setNames] = useState(() => likelyNames(lacking));
  const all: Renames = {
    fields: { ...rules.fields, ...names.fields },
    parts: { ...rules.parts, ...names.parts },
  };
  const [fates, setFates] = useState<Record<string, ScaleFate>>(() =>
    Object.fromEntries(first.scales.map((s) => [s.id, usualFate(s)])),
  );
  const { problem, work: busy, run: work } = useWork();
  const own = useListed<KeptStyle<Look>>('/api/styles/look').map((k) => k.document);
  const looks = [...own, ...shippedLooks.filter((l) => own.every((o) => o.name !== l.name))];
  const [worn, setWorn] = useState<string | null>(null);
  const look = looks.find((l) => l.name === worn) ?? null;
  const inLook = (scene: Scene) =>
    look ? withLook(scene, look, lookSettingOf(to)) : { scene, unmatched: [] };
  const on = (scene: Scene): Scene =>
    inLook(withScaleFates(onOtherRun(scene, to, all), { scene, run, ends }, to, fates)).scene;
  const mismatches = useMemo(
    () => [
      ...new Set(
        scenes.flatMap((s) => {
          const there = onOtherRun(s, to, all);
          return [...sceneMismatches(there, to), ...inLook(there).unmatched];
        }),
      ),
    ],
    [scenes, to, names, look],
  );
  return (
    <>
      {lacking.length > 0 && (
        <section aria-label="What is called otherwise">
          <h3 className="head mb-1.5">Called otherwise there, or not there</h3>
          <NamesMeant lacking={lacking} names={names} onNames={setNames} />
        </section>
      )}
      <section aria-label="Scales">
        <h3 className="head mb-1.5">Where colours begin and end</h3>
        <ul className="flex flex-col gap-1.5">
          {first.scales.map((scale) => (
            <li key={scale.id} className="flex flex-wrap items-center gap-1.5 text-sm">
              <span className="min-w-20 flex-1 truncate font-medium">{scale.name}</span>
              <Pill
                on={fates[scale.id] === 'kept'}
                onClick={() => setFates({ ...fates, [scale.id]: 'kept' })}
              >
                kept{saidEnds(ends[scale.id], unitsOfScale(scale, run).stored)}
              </Pill>
              <Pill
                on={fates[scale.id] === 'refitted'}
                onClick={() => setFates({ ...fates, [scale.id]: 'refitted' })}
              >
                refitted
              </Pill>
            </li>
          ))}
        </ul>
      </section>
      <label className="flex items-center gap-2 text-sm">
        <span className="head">In which look</span>
        <select
          className="field min-w-0 flex-1"
          value={worn ?? ''}
          onChange={(e) => setWorn(e.target.value === '' ? null : e.target.value)}
        >
          <option value="">as they are</option>
          {looks.map(({ name }) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </label>
      {mismatches.length > 0 && (
        <details>
          <summary className="cursor-pointer text-soft">
            {mismatches.length === 1 ? 'One thing' : `${mismatches.length} things`} will be left out
          </summary>
          <ul className="mt-1 max-h-40 list-disc overflow-y-auto pl-5 text-sm">
            {mismatches.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </details>
      )}
      <button
        type="button"
        className="act self-start"
        disabled={busy !== null}
        onClick={() => work(act, () => onChoose({ id, run: to, rules: all, on }))}
      >
        {act}
      </button>
      {problem && <ProblemNote problem={problem} />}
    </>
  );
}

const saidEnds = (ends: readonly [number, number] | undefined, unit: string | null): string =>
  ends ? ` at ${sayNumber(ends[0])} to ${sayNumber(ends[1])}${unit ? ` ${unit}` : ''}` : '';
