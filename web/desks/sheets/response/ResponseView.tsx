import { type ReactNode, useMemo, useState } from 'react';
import { sayNumber } from '#core/language/sentence.ts';
import { responseKinds } from '#core/response/registry.ts';
import {
  likelyResponse,
  type ResponsePlot,
  type ResponseWish,
  responsePlot,
} from '#core/sets/response-plot.ts';
import { responseSurface } from '#core/sets/response-surface.ts';
import type { RunColumn, RunTable } from '#core/sets/run-table.ts';
import { responseViews } from '#core/sets/set-view.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { Choice, Chooser, NumberField } from '#web/desks/stage/Chooser.tsx';
import type { ListedRun } from '#web/server/run-sets.ts';
import { sayLabels } from '../contact/RunPicture.tsx';
import { sayValue } from '../say-value.ts';
import { editSet, useRunSet } from '../set-store.ts';
import { ResidualsChart } from './ResidualsChart.tsx';
import { ResponseChart } from './ResponseChart.tsx';
import { SurfaceChart } from './SurfaceChart.tsx';

interface Props {
  table: RunTable;
  /** Indices of the rows that are shown. */
  rows: readonly number[];
  runs: ReadonlyMap<string, ListedRun>;
}

const howTo: Record<(typeof responseViews)[number], string> = {
  curves: 'A press marks a run, a box drawn over some marks them: everywhere in the set.',
  surface:
    'Drag to turn it, or use the arrows. Runs stand on their residuals, above or below what is fitted; a press marks one.',
  residuals: 'How far each run is off, over what the fit says of it; a press marks a run.',
};

/** In place of the key of a column, where none is wanted. */
const NONE = 'none';

/** An output against inputs: points, curves by group, and a fit with how well it tells. */
export function ResponseView({ table, rows, runs }: Props) {
  const { response, marked, sheet } = useRunSet();
  const [pointed, setPointed] = useState<number | null>(null);
  const likely = likelyResponse(table);
  const wish: ResponseWish = {
    ...response,
    output: response.output ?? likely.output,
    across: response.across ?? likely.across,
    group: response.group === NONE ? null : (response.group ?? likely.group),
  };
  const plot = useMemo(() => responsePlot(table, rows, wish), [table, rows, JSON.stringify(wish)]);
  const change = (to: Partial<typeof response>, key: string | null = null): void =>
    editSet({ type: 'set.response', change: to }, key);
  const inputs = table.columns.filter((c) => c.role === 'input');
  const group = table.columns.find((c) => c.key === wish.group) ?? null;
  const isMarked = useMemo(() => {
    const ids = new Set(marked);
    return (row: number) => ids.has(table.rows[row].id);
  }, [marked, table]);
  const surface = useMemo(
    () => (plot && response.view === 'surface' ? responseSurface(plot, group) : ''),
    [plot, group, response.view],
  );
  if (!plot)
    return (
      <p className="p-6 text-soft">
        A chart needs an output and an input that are numbers: the head of a column in the table says what it
        is.
      </p>
    );
  const press = (row: number): void =>
    editSet({ type: 'set.mark', runs: [table.rows[row].id], on: !isMarked(row) });
  const step = (by: number): void => {
    const at = plot.steps[plot.steps.indexOf(plot.at) + by];
    if (at !== undefined) change({ at }, 'step');
  };
  return (
    <section
      aria-label="Response"
      className="relative flex min-h-0 flex-1 flex-col"
      // An input that is stepped through follows the arrows wherever the focus is within the chart.
      onKeyDown={(e) => {
        const by = e.key === 'ArrowRight' ? 1 : e.key === 'ArrowLeft' ? -1 : 0;
        if (by === 0 || plot.steps.length === 0 || (e.target as HTMLElement).matches('input, select')) return;
        e.preventDefault();
        step(by);
      }}
    >
      <div className="border-b border-rule px-4 py-2.5">
        <fieldset className="float-right ml-4 flex gap-1.5">
          <legend className="sr-only">How the response is shown</legend>
          {responseViews.map((view) => (
            <Pill key={view} on={response.view === view} onClick={() => change({ view })}>
              {view}
            </Pill>
          ))}
        </fieldset>
        <p>
          <ColumnWord
            label="What is looked at"
            column={plot.output}
            columns={table.columns.filter((c) => c.numeric && c.role !== 'label')}
            onChoose={(output) => change({ output })}
          />{' '}
          over{' '}
          <ColumnWord
            label="What it is looked at over"
            column={plot.across}
            columns={inputs.filter((c) => c.numeric)}
            onChoose={(across) => change({ across })}
          />
          , in{' '}
          <ColumnWord
            label="What makes curves"
            column={group}
            none="one curve"
            said={(c) => `curves by ${c.name}`}
            columns={inputs.filter((c) => c.key !== plot.across.key && c.key !== wish.stepped)}
            onChoose={(key) => change({ group: key })}
          />
          {inputs.length > 2 && (
            <>
              , at{' '}
              <ColumnWord
                label="What is stepped through"
                column={table.columns.find((c) => c.key === wish.stepped) ?? null}
                none="all else together"
                columns={inputs.filter((c) => c.key !== plot.across.key && c.key !== wish.group)}
                onChoose={(key) => change({ stepped: key === NONE ? null : key, at: null })}
              />
            </>
          )}
          {plot.steps.length > 0 && (
            <span className="ml-2 inline-flex items-center gap-1.5">
              <input
                type="range"
                aria-label="Value of what is stepped through"
                aria-valuetext={sayValue(plot.at)}
                min={0}
                max={plot.steps.length - 1}
                value={plot.steps.indexOf(plot.at)}
                onChange={(e) => change({ at: plot.steps[Number(e.target.value)] }, 'step')}
              />
              <span className="tabular-nums">{sayValue(plot.at)}</span>
            </span>
          )}
          ; fitted by <FitWord wish={wish} onFit={(fit) => change({ fit }, 'fit')} />.
        </p>
        <FitQuality plot={plot} table={table} />
      </div>
      {response.view === 'curves' ? (
        <ResponseChart
          plot={plot}
          group={group}
          label={`${plot.output.name} over ${plot.across.name}`}
          isMarked={isMarked}
          onPoint={setPointed}
          onPress={press}
          onBox={(box) =>
            editSet({
              type: 'set.mark',
              runs: box.map((row) => table.rows[row].id),
              on: box.some((r) => !isMarked(r)),
            })
          }
        />
      ) : response.view === 'surface' ? (
        typeof surface === 'string' ? (
          <p className="p-6 text-soft">{surface}</p>
        ) : (
          <SurfaceChart
            surface={surface}
            label={`${plot.output.name} over ${plot.across.name} and ${surface.y.name}`}
            isMarked={isMarked}
            onPoint={setPointed}
            onPress={press}
          />
        )
      ) : plot.fit ? (
        <ResidualsChart plot={plot} isMarked={isMarked} onPoint={setPointed} onPress={press} />
      ) : (
        <p className="p-6 text-soft">Choose how it is fitted: then there are residuals.</p>
      )}
      <p className="px-4 pb-2 text-xs text-soft">{howTo[response.view]}</p>
      {pointed !== null && (
        <figure className="card pointer-events-none absolute top-24 right-4 w-60 overflow-hidden">
          {runs.get(table.rows[pointed].id)?.pictured && (
            <img
              src={`/api/scenes/${runs.get(table.rows[pointed].id)!.scene}/thumbnail`}
              alt=""
              className="w-full bg-sunk"
            />
          )}
          <figcaption className="px-3 py-1.5 text-sm">
            <span className="font-medium">{table.rows[pointed].name}</span>
            <span className="block text-soft tabular-nums">{sayLabels(table, pointed, sheet.labels)}</span>
            <span className="block tabular-nums">
              {plot.output.name} {sayValue(plot.output.values[pointed])}
              {plot.output.unit ? ` ${plot.output.unit}` : ''}
            </span>
          </figcaption>
        </figure>
      )}
    </section>
  );
}

interface ColumnWordProps {
  label: string;
  column: RunColumn | null;
  columns: readonly RunColumn[];
  /** What is said where none is chosen; absent where one must be. */
  none?: string;
  said?(column: RunColumn): ReactNode;
  onChoose(key: string): void;
}

const ColumnWord = ({ label, column, columns, none, said = (c) => c.name, onChoose }: ColumnWordProps) => (
  <Chooser word={column ? said(column) : none} label={label} side="bottom">
    {none && (
      <Choice chosen={column === null} onChoose={() => onChoose(NONE)}>
        {none}
      </Choice>
    )}
    {columns.map((one) => (
      <Choice key={one.key} chosen={one.key === column?.key} onChoose={() => onChoose(one.key)}>
        {one.name}
      </Choice>
    ))}
  </Chooser>
);

interface FitProps {
  wish: ResponseWish;
  onFit(fit: (ResponseWish['fit'] & { options: Record<string, number | boolean> }) | null): void;
}

/** How it is fitted; the numbers and ticks of each way are those of its options. */
function FitWord({ wish: { fit }, onFit }: FitProps) {
  const kind = responseKinds.find((k) => k.id === fit?.kind) ?? null;
  const options = { ...kind?.defaults, ...fit?.options } as Record<string, number | boolean>;
  const said = Object.entries(options).map(([name, v]) =>
    typeof v === 'boolean' ? (v ? `with ${name}` : '') : v === 0 ? '' : `${name} ${v}`,
  );
  const word = kind ? [kind.name.toLowerCase(), ...said.filter(Boolean)].join(', ') : 'nothing';
  return (
    <Chooser word={word} label="How it is fitted" side="bottom">
      <div className="flex flex-col gap-2">
        <div className="flex flex-wrap gap-1.5">
          <Pill on={kind === null} onClick={() => onFit(null)}>
            nothing
          </Pill>
          {responseKinds.map((one) => (
            <Pill
              key={one.id}
              on={one.id === kind?.id}
              title={one.purpose}
              onClick={() => onFit({ kind: one.id, options: {} })}
            >
              {one.name.toLowerCase()}
            </Pill>
          ))}
        </div>
        {kind && <p className="text-sm text-soft">{kind.purpose}</p>}
        {kind &&
          Object.entries(options).map(([name, v]) =>
            typeof v === 'boolean' ? (
              <Tick
                key={name}
                label={name}
                checked={v}
                onChange={(on) => onFit({ kind: kind.id, options: { ...options, [name]: on } })}
              />
            ) : (
              <NumberField
                key={name}
                label={name}
                value={v}
                onChange={(to) => {
                  const next = { ...options, [name]: to };
                  if (kind.schema.safeParse(next).success) onFit({ kind: kind.id, options: next });
                }}
              />
            ),
          )}
      </div>
    </Chooser>
  );
}

/** So many runs that lie farthest from the fit are named. */
const FARTHEST = 5;

/** How well the fit tells, of the runs it was made of and of runs it has not seen, and which lie farthest from it. */
function FitQuality({
  plot: { fit, trouble, output, rows },
  table,
}: {
  plot: ResponsePlot;
  table: RunTable;
}) {
  if (trouble)
    return (
      <p role="alert" className="mt-1 text-sm text-warn">
        {trouble}
      </p>
    );
  if (!fit) return null;
  const { explained, predicted, away, awayLeftOut } = fit.quality;
  const unit = output.unit ? ` ${output.unit}` : '';
  const share = (v: number | null): string => (v === null ? 'not told' : v.toFixed(4));
  const farthest = fit.used
    .map((sample, i) => ({ name: table.rows[rows[sample]].name, residual: fit.residuals[i] }))
    .sort((a, b) => Math.abs(b.residual) - Math.abs(a.residual))
    .slice(0, FARTHEST);
  return (
    <details className="mt-1 text-sm text-soft">
      <summary className="cursor-pointer tabular-nums">
        R² {share(explained)}; leaving out each run in turn {share(predicted)}; off by {sayNumber(away)}
        {unit}, of runs it has not seen by{' '}
        {Number.isNaN(awayLeftOut) ? 'what is not told' : `${sayNumber(awayLeftOut)}${unit}`}
      </summary>
      <p className="mt-1">
        Farthest from it:{' '}
        {farthest
          .map(({ name, residual }) => `${name} ${residual > 0 ? '+' : ''}${sayNumber(residual)}${unit}`)
          .join(', ')}
        .
      </p>
    </details>
  );
}
