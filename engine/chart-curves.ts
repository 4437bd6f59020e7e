import { type CurveData, curveFrom } from '#core/measure/curves/curve-data.ts';
import { worked } from '#core/measure/curves/registry.ts';
import { isSheet, sheetOf } from '#core/measure/curves/sheet.ts';
import { alongSteps } from '#core/model/along-steps.ts';
import type { ArrayRef, RunDescription } from '#core/model/run.ts';
import { type Curves, isCurve } from '#core/scene/charts/chart-drawn.ts';
import type { Chart, Curve, CurveSource, Gauge, Scene } from '#core/scene/document.ts';
import { gaugeLabel, givesCurve } from '#core/scene/gauge-label.ts';
import { isReading, type NoReading, numberOf, type Reading, type ReadingPart } from '#core/scene/reading.ts';
import type { GaugeAnswers } from './gauge-answers.ts';
import type { OtherRun } from './run-ranges.ts';

/** The curves of charts: answers of gauges over the steps, or as they are at one, and columns of imported histories. */
export class ChartCurves {
  private last: { same: string; run: RunDescription; answers: (Reading | NoReading)[][] } | null = null;
  /** Pictures over the steps by the answers they are made of and what is done with these: what was painted is met again. */
  private readonly sheets = new WeakMap<Answers, Map<string, CurveData | NoReading>>();

  constructor(
    private readonly gauges: GaugeAnswers,
    private readonly column: (values: ArrayRef) => Promise<ArrayLike<number>>,
    private readonly otherRun: (name: string) => Promise<OtherRun>,
  ) {}

  /**
   * @param step the one on show, at which curves are that do not run over steps
   * @param progress told the share of the steps that are done, with the curves as far as they are known
   * @throws what `signal` was aborted with
   */
  async of(
    charts: readonly Chart[],
    scene: Scene,
    run: RunDescription,
    step: number,
    progress?: (done: number, curves: () => Curves) => void,
    signal?: AbortSignal,
  ): Promise<Curves> {
    const curves = charts.flatMap((c) => c.curves);
    const askedOf = (overSteps: boolean): Gauge[] =>
      scene.gauges.filter((g) =>
        curves.some(
          ({ of }) =>
            of.kind === 'gauge' &&
            of.gauge === g.id &&
            (!givesCurve(g) || of.everyStep === true) === overSteps,
        ),
      );
    const [still, over] = [askedOf(false), askedOf(true)];
    const columns = new Map<string, CurveData | NoReading>();
    for (const { id, of } of curves) if (of.kind === 'column') columns.set(id, await this.ofColumn(of, run));
    const now = await this.gauges.readings(still, scene, step, 'curves');
    const known = (answers: Answers[], whole: boolean): Curves => {
      const overSteps = new Map(over.map((g, i) => [g.id, answers[i]]));
      const plain = new Map<string, CurveData | NoReading>();
      for (const { id, of, work } of curves) {
        const gauge = of.kind === 'gauge' ? scene.gauges.find((g) => g.id === of.gauge) : undefined;
        plain.set(
          id,
          of.kind === 'column'
            ? columns.get(id)!
            : !gauge
              ? { trouble: 'The gauge it is of is gone. Choose another curve.' }
              : !givesCurve(gauge)
                ? ofSteps(overSteps.get(gauge.id)!, of.part, gaugeLabel(gauge, scene, run), run)
                : of.everyStep
                  ? this.sheet(overSteps.get(gauge.id)!, work, run, whole)
                  : ofReading(now[gauge.id]),
        );
      }
      return allWorked(curves, plain);
    };
    const told =
      progress &&
      ((done: number, found: (Reading | NoReading | undefined)[][]) =>
        progress(done, () => known(found, false)));
    return known(await this.overSteps(over, scene, run, told, signal), true);
  }

  /** @param whole whether all answers are there: then it stays as it is */
  private sheet(
    answers: Answers,
    work: Curve['work'],
    run: RunDescription,
    whole: boolean,
  ): CurveData | NoReading {
    if (!whole) return ofEveryStep(answers, work, run);
    let kept = this.sheets.get(answers);
    if (!kept) this.sheets.set(answers, (kept = new Map()));
    const name = JSON.stringify(work);
    let found = kept.get(name);
    if (!found) kept.set(name, (found = ofEveryStep(answers, work, run)));
    return found;
  }

  /** Answers over all steps; those of the last time stay while nothing they depend on has changed. */
  private async overSteps(
    gauges: readonly Gauge[],
    scene: Scene,
    run: RunDescription,
    progress?: (done: number, found: (Reading | NoReading | undefined)[][]) => void,
    signal?: AbortSignal,
  ): Promise<(Reading | NoReading)[][]> {
    const same = JSON.stringify([
      gauges.map(({ id: _, name: __, ...ask }) => ask),
      scene.layers.map((l) => [l.id, l.parts, l.set, l.from, l.chain, l.time]),
      scene.sets,
      scene.cycle,
    ]);
    if (this.last?.same === same && this.last.run === run) return this.last.answers;
    const answers = await this.gauges.overSteps(gauges, scene, [...run.steps.keys()], progress, signal);
    this.last = { same, run, answers };
    return answers;
  }

  private async ofColumn(
    { table: name, column, run: other }: Extract<CurveSource, { kind: 'column' }>,
    run: RunDescription,
  ): Promise<CurveData | NoReading> {
    const holder = other === undefined ? run : await this.otherRun(other);
    if ('trouble' in holder) return { trouble: sentenceOf(holder.trouble) };
    const table = holder.tables.find((t) => t.name === name);
    const found = table?.columns.find((c) => c.name === column);
    const who = other === undefined ? 'This run' : `The run “${other}”`;
    if (!table || !found) return { trouble: `${who} has no history “${column}” of “${name}”.` };
    const y = await this.column(found.values);
    const time = table.time === null ? null : table.columns[table.time];
    const x = time ? await this.column(time.values) : Float64Array.from({ length: table.rows }, (_, i) => i);
    return curveFrom(
      { name: time?.name ?? 'row', unit: time?.unit ?? null },
      { name: found.name, unit: found.unit },
      x,
      y,
      // A history over the time of the run is somewhere at the step on show.
      time !== null && run.steps.length > 1 && run.steps[0].kind === 'time',
    );
  }
}

const sentenceOf = (reason: string): string => `${reason[0].toUpperCase()}${reason.slice(1)}.`;

function ofReading(found: Reading | NoReading | undefined): CurveData | NoReading {
  if (!found) return { trouble: 'It was not measured.' };
  if (!isReading(found)) return found;
  const { curve } = found;
  if (!curve) return { trouble: 'It is one number, no curve.' };
  return {
    ...curve,
    x: Float64Array.from(curve.x),
    y: Float64Array.from(curve.y),
    overSteps: false,
  };
}

type Answers = readonly (Reading | NoReading | undefined)[];

/** Why none of the steps has an answer. */
const noneOf = (answers: Answers): NoReading =>
  answers.find((a): a is NoReading => a !== undefined && !isReading(a)) ?? {
    trouble: 'Nothing is measured yet.',
  };

/** The curves of all steps as a picture over them, each after all that is done with it. */
function ofEveryStep(answers: Answers, work: Curve['work'], run: RunDescription): CurveData | NoReading {
  if (!answers.some(isReading)) return noneOf(answers);
  const { name, unit, values } = alongSteps(run.steps, run.timeUnit);
  try {
    const curves = Array.from(answers, (answer) => {
      const own = answer && ofReading(answer);
      return own && isCurve(own) ? worked(own, work, { curve: () => null }) : null;
    });
    return sheetOf(curves, { name, unit }, values);
  } catch (error) {
    return { trouble: (error as Error).message };
  }
}

function ofSteps(
  answers: Answers,
  part: ReadingPart,
  name: string,
  run: RunDescription,
): CurveData | NoReading {
  const first = answers.find(isReading);
  if (!first) return noneOf(answers);
  const { name: along, unit, values } = alongSteps(run.steps, run.timeUnit);
  const y = Array.from(answers, (a) => (isReading(a) ? numberOf(a, part) : Number.NaN));
  const called =
    part === 'value' && Array.isArray(first.value)
      ? `${name} size`
      : part === 'value'
        ? name
        : `${name} ${part}`;
  return curveFrom({ name: along, unit }, { name: called, unit: first.unit }, values, y, true);
}

/** Curves after what is done with them; some of it looks at other curves as they are drawn. */
function allWorked(curves: readonly Curve[], plain: ReadonlyMap<string, CurveData | NoReading>): Curves {
  const done: Record<string, CurveData | NoReading> = {};
  const under = new Set<string>();
  const of = (id: string): CurveData | NoReading => {
    if (done[id]) return done[id];
    const curve = curves.find((c) => c.id === id);
    const from = plain.get(id);
    if (!curve || !from) return { trouble: 'That curve is gone.' };
    if (under.has(id)) return { trouble: 'It is made from itself.' };
    // Curves of every step were worked on before they were put together.
    if (!isCurve(from) || isSheet(from)) return (done[id] = from);
    under.add(id);
    try {
      const beside = (other: string): CurveData | null => {
        const found = of(other);
        return isCurve(found) && !isSheet(found) ? found : null;
      };
      done[id] = worked(from, curve.work, { curve: beside });
    } catch (error) {
      done[id] = { trouble: (error as Error).message };
    }
    under.delete(id);
    return done[id];
  };
  for (const { id } of curves) of(id);
  return done;
}
