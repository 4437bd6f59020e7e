import { use } from 'react';
import type { Spread } from '#core/colour/spread.ts';
import { parseQuantity, quantityStatistics } from '#core/model/quantity.ts';
import { fieldByKey, type RunDescription } from '#core/model/run.ts';
import type { Scale } from '#core/scene/document.ts';
import { goToStep, sceneNow, useDesk, useRun, useScene } from '../desk-store.ts';
import { type Finding, FindingContext } from '../finding-context.ts';
import { useSaidValue } from './ValueMenu.tsx';

interface End {
  kind: 'lowest' | 'highest';
  value: number;
  /** Shows where it is. */
  show(): void;
}

interface Row {
  of: string;
  ends: End[];
}

/** The lowest and highest values of what is shown, of the step and of all steps; each is clicked to see where it is. */
export function ExtremesTable({ scale, spread }: { scale: Scale; spread: Spread | null }) {
  const run = useRun();
  const { step } = useScene();
  const finding = use(FindingContext);
  const rows = rowsOf(scale, spread, run, step, finding);
  if (rows.length === 0) return null;
  return (
    <table className="w-full text-xs" aria-label="Lowest and highest values, click to see where">
      <tbody>
        {rows.map(({ of, ends }) => (
          <tr key={of}>
            <th className="py-0.5 text-left font-normal text-soft">{of}</th>
            {ends.map((end) => (
              <td key={end.kind} className="py-0.5 text-right tabular-nums">
                <EndButton scale={scale} of={of} end={end} />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function EndButton({ scale, of, end: { kind, value, show } }: { scale: Scale; of: string; end: End }) {
  const said = useSaidValue(scale, value);
  return (
    <button
      type="button"
      className="text-accent hover:underline"
      title={`Show where it is ${kind}`}
      aria-label={`Show where it is ${kind}, ${of}`}
      onClick={show}
    >
      {kind} {said}
    </button>
  );
}

function rowsOf(
  scale: Scale,
  spread: Spread | null,
  run: RunDescription,
  step: number,
  finding: Finding,
): Row[] {
  const { origin } = run;
  const wanted = parseQuantity(scale.quantity);
  const field = fieldByKey(run, wanted.field);
  const rows: Row[] = [];
  if (spread && spread.weight > 0) {
    const shown = (kind: End['kind'], value: number, at: Spread['lowAt']): End => ({
      kind,
      value,
      show: () => at && pointOut([at[0] + origin[0], at[1] + origin[1], at[2] + origin[2]]),
    });
    rows.push({
      of: 'on what is drawn',
      ends: [shown('lowest', spread.low, spread.lowAt), shown('highest', spread.high, spread.highAt)],
    });
  }
  const at = (n: number) => field && quantityStatistics(field, wanted.component, n);
  const find = async (kind: End['kind'], value: number, of: number): Promise<void> => {
    if (of !== sceneNow().step) goToStep(of);
    const found = await finding.extreme(kind, wanted, of);
    const there = found && Math.abs(found.values[0] - value) <= 1e-5 * Math.max(1e-30, Math.abs(value));
    if (there) pointOut(found.place);
    else
      useDesk.setState({
        trouble: `The ${kind} value lies in a part that is not shown. Show every part to see it.`,
      });
  };
  const ofStep = (of: string, n: [lowest: number, highest: number]): void => {
    const [low, high] = [at(n[0]), at(n[1])];
    if (!low || !high || !Number.isFinite(low.min)) return;
    rows.push({
      of,
      ends: [
        { kind: 'lowest', value: low.min, show: () => void find('lowest', low.min, n[0]) },
        { kind: 'highest', value: high.max, show: () => void find('highest', high.max, n[1]) },
      ],
    });
  };
  ofStep(run.steps.length > 1 ? 'this step, inside too' : 'anywhere, inside too', [step, step]);
  if (run.steps.length > 1) {
    const all = run.steps.map((_, n) => ({ n, stats: at(n) })).filter(({ stats }) => stats !== null);
    const best = (of: (s: { min: number; max: number }) => number): number =>
      all.reduce((a, b) => (of(b.stats!) > of(a.stats!) ? b : a), all[0])?.n ?? step;
    ofStep('all steps', [best((s) => -s.min), best((s) => s.max)]);
  }
  return rows;
}

const pointOut = (place: [number, number, number]): void => useDesk.setState({ pointedOut: place });
