import { LRUCache } from 'lru-cache';
import { quantityField } from '#core/fields/quantity-sources.ts';
import { isLacking } from '#core/measure/measure.ts';
import type { MeasuredQuantity } from '#core/measure/measured-quantity.ts';
import { type AnyMeasure, measureById } from '#core/measure/registry.ts';
import { joinBounds } from '#core/model/mesh.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { OperationSetting } from '#core/ops/chain/operation.ts';
import { understood } from '#core/ops/chain/understood.ts';
import { type Ask, joinedAnswer } from '#core/scene/ask.ts';
import type { Gauge, Layer, Scene } from '#core/scene/document.ts';
import { wholeChain } from '#core/scene/layer-chain.ts';
import { keysOfScene, withSceneQuantities } from '#core/scene/named-quantities.ts';
import { isReading, type MeasuredOn, type NoReading, type Reading } from '#core/scene/reading.ts';
import { settingOf } from '#core/scene/setting.ts';
import { rangesOfLayer, requestsOfLayer } from './layer-requests.ts';
import { type MeasuredPart, type MeasureRequest, measureKey } from './measuring.ts';
import type { Ranges } from './ranges.ts';

/** What one measured part comes to, or why there is nothing. */
export type PartAnswer = MeasuredPart | NoReading;

/**
 * Where parts are measured: many at once, for every message takes its time.
 *
 * @param slot a newer question of the same slot takes the place of one that waits; null where none does
 * @param spread questions of different numbers may be answered at the same time, each with its own copy of the mesh
 */
export type MeasureParts = (
  requests: readonly MeasureRequest[],
  slot: string | null,
  spread: number,
  signal?: AbortSignal,
) => Promise<PartAnswer[]>;

/** How many answers of parts are kept; they are a few numbers each. */
const KEPT = 100_000;

/** How many steps are asked for at the same time. */
const AT_ONCE = 4;

/** A question at a step, with everything settled. */
interface Plan {
  ask: Ask;
  measure: AnyMeasure;
  options: object;
  setting: OperationSetting;
  /** One a part, each with what tells its answer from others; see `measureKey`. */
  requests: { key: string; request: MeasureRequest }[];
  /** Why something it is measured by is not there at the step, or null. */
  absent: string | null;
  /** What is taken for granted in what it is measured by, or null. */
  unsure: string | null;
  /** Whether it goes through all steps, which are kept where they are. */
  through: boolean;
}

/** Answers the gauges of scenes, and keeps the answers: the same question of the same arrays is asked once. */
export class GaugeAnswers {
  private readonly kept = new LRUCache<string, MeasuredPart>({ max: KEPT });

  constructor(
    private readonly ranges: Ranges,
    private readonly measure: MeasureParts,
  ) {}

  /**
   * What is asked for at a step.
   *
   * @throws Error in words where there is no answer
   */
  async at(ask: Ask, scene: Scene, step: number): Promise<Reading> {
    await this.know([ask], scene);
    const [found] = await this.answers([ask], scene, step, null, 0);
    if (!isReading(found)) throw new Error(found.trouble);
    return found;
  }

  /** Readings of some gauges at a step, by their ids; what has none says why. */
  async readings(
    gauges: readonly Gauge[],
    scene: Scene,
    step: number,
    slot: string,
  ): Promise<Record<string, Reading | NoReading>> {
    if (gauges.length === 0) return {};
    await this.know(gauges, scene);
    const found = await this.answers(gauges, scene, step, slot, 0);
    return Object.fromEntries(gauges.map((gauge, i) => [gauge.id, found[i]]));
  }

  /**
   * What is asked for at several steps: by question, an answer a step. Every step is gone through once for all questions, so
   * that an array that several of them read is read once.
   *
   * @param progress told the share of the steps that are done, with what there is of the answers
   * @throws what `signal` was aborted with
   */
  async overSteps(
    asks: readonly Ask[],
    scene: Scene,
    steps: readonly number[],
    progress: (done: number, found: (Reading | NoReading | undefined)[][]) => void = () => undefined,
    signal?: AbortSignal,
  ): Promise<(Reading | NoReading)[][]> {
    const out: (Reading | NoReading)[][] = asks.map(() => new Array(steps.length));
    if (asks.length === 0) return out;
    await this.know(asks, scene, signal);
    const atSteps = { ...scene, onward: 0 };
    let [next, done] = [0, 0];
    const runner = async (): Promise<void> => {
      while (next < steps.length) {
        signal?.throwIfAborted();
        const i = next++;
        const found = await this.answers(asks, atSteps, steps[i], null, i % AT_ONCE, signal);
        signal?.throwIfAborted();
        for (const [k, one] of found.entries()) out[k][i] = one;
        progress(++done / steps.length, out);
      }
    };
    await Promise.all(Array.from({ length: Math.min(AT_ONCE, steps.length) }, runner));
    return out;
  }

  /** What the run must be known of as a whole before it can be asked. */
  private async know(asks: readonly Ask[], scene: Scene, signal?: AbortSignal): Promise<void> {
    const keys = asks.flatMap(({ options }) => Object.values(options).filter((v) => typeof v === 'string'));
    // Sentences name what is computed with these.
    await this.ranges.knowIngredients([...keysOfScene(scene), ...keys], signal);
    const needed = asks.map(({ on }) => rangesOfLayer(on, scene, this.ranges.run));
    await this.ranges.know(
      { ranges: needed.flatMap((n) => n.ranges), shares: needed.flatMap((n) => n.shares) },
      signal,
    );
  }

  private async answers(
    asks: readonly Ask[],
    scene: Scene,
    step: number,
    slot: string | null,
    spread: number,
    signal?: AbortSignal,
  ): Promise<(Reading | NoReading)[]> {
    const run = withSceneQuantities(this.ranges.run, scene);
    const plans = asks.map((ask) => planned(ask, scene, run, step));
    const known = new Map<string, PartAnswer>();
    const wanted = new Map<string, MeasureRequest>();
    for (const plan of plans)
      for (const { key, request } of 'requests' in plan ? plan.requests : []) {
        const kept = this.kept.get(key);
        if (kept) known.set(key, kept);
        else wanted.set(key, request);
      }
    const alike = plans.some((p) => 'through' in p && p.through) ? 0 : spread;
    const found = wanted.size > 0 ? await this.measure([...wanted.values()], slot, alike, signal) : [];
    for (const [i, key] of [...wanted.keys()].entries()) {
      const one = found[i];
      known.set(key, one);
      if (!('trouble' in one)) this.kept.set(key, one);
    }
    return plans.map((plan) => ('trouble' in plan ? plan : read(plan, run, known)));
  }
}

function planned(ask: Ask, scene: Scene, run: RunDescription, step: number): Plan | NoReading {
  try {
    const measure = measureById(ask.measure);
    const options = measure.schema.parse(ask.options) as object;
    const then = stateAsked(ask, scene, step);
    const { requests, trouble, absent } = requestsOfLayer(
      showingMeasured(ask.on, options),
      then,
      run,
      step,
      [],
      measure.needs(options),
    );
    if (trouble) return { trouble };
    const { chain } = wholeChain(ask.on, scene);
    const fields = measure.needs(options).map(({ field }) => quantityField(field, run));
    return {
      ask,
      measure,
      options,
      setting: settingOf(run, then),
      absent,
      unsure: fields.find((f) => f?.unsure)?.unsure ?? null,
      requests: requests.map(({ request: of }) => {
        const request = { measure: ask.measure, options, of };
        return { key: measureKey(request), request };
      }),
      through: chain.some((s) => !s.off && understood(s)?.operation.reads === 'all steps'),
    };
  } catch (error) {
    return { trouble: (error as Error).message };
  }
}

/** Lines through the steps tell on their way of what they show: here of what is measured. */
function showingMeasured(on: Layer, options: Partial<MeasuredQuantity>): Layer {
  const { field, component, whole } = options;
  if (field === undefined || component === undefined || whole) return on;
  return { ...on, colour: { kind: 'field', field, component, scale: '' } };
}

function read(
  { ask, measure, options, setting, requests, absent, unsure }: Plan,
  run: RunDescription,
  known: ReadonlyMap<string, PartAnswer>,
): Reading | NoReading {
  const parts = requests.map(({ key }) => known.get(key)!);
  const trouble = parts.find((p) => 'trouble' in p);
  if (trouble) return trouble as NoReading;
  const made = parts as MeasuredPart[];
  const { part, answer } = joinedAnswer(
    { ...ask, options: options as Ask['options'] },
    made.map((p) => p.part),
  );
  if (isLacking(answer)) return { trouble: absent ?? lackingIn(answer.lacking, ask, run) };
  const { curve, note, ...plain } = answer;
  const odd = [note, unsure].filter((n) => n != null).join('; ');
  const axes = curve && measure.axes?.(options, setting);
  return {
    ...plain,
    ...(odd && { note: odd }),
    ...(curve && axes && { curve: { ...curve, ...axes } }),
    unit: measure.unit(options, setting, part),
    on: made
      .filter((p) => !isLacking(p.part))
      .map((p) => p.on)
      .reduce(joinOn),
    positive: measure.positive?.(options) ?? null,
  };
}

/** Numbers are of the run: what is hidden counts. */
const stateAsked = ({ phase }: Ask, scene: Scene, step: number): Scene => ({
  ...scene,
  step,
  onward: step === scene.step ? scene.onward : 0,
  parts: {},
  cycle: phase === null ? scene.cycle : { ...scene.cycle, phase },
});

const joinOn = (a: MeasuredOn, b: MeasuredOn): MeasuredOn => ({
  parts: [...a.parts, ...b.parts],
  dimension: Math.max(a.dimension, b.dimension),
  cells: a.cells + b.cells,
  bounds: joinBounds(a.bounds, b.bounds),
});

function lackingIn(lacking: string, { on }: Ask, run: RunDescription): string {
  const several = (on.parts ?? run.parts).length !== 1;
  return several ? `These parts have no ${lacking}.` : `This part has no ${lacking}.`;
}
