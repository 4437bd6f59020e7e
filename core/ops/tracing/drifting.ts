import type { MeshField } from '../../model/field.ts';
import type { Component } from '../../model/quantity.ts';
import type { StepInput, StepsThrough } from '../chain/operation.ts';
import { type Asked, type Flow, HERE, MeshFlow } from './flow.ts';
import { type LineEnd, LineTracer, type TraceLimits } from './trace-line.ts';

/** Something that is carried along. */
export interface Drifter {
  /** When it is let go. */
  from: number;
  place: number[];
  /** Why it is carried no farther; null while it is. */
  end: LineEnd | null;
  length: number;
  /** Gets every point of its way; the flow was asked there last. */
  onPoint(x: number, y: number, z: number, time: number, length: number, flow: BetweenSteps): void;
}

/** A flow between two steps, mixed in time from both. */
export class BetweenSteps implements Flow {
  readonly fastest: number;
  readonly changes = true;
  private readonly other = new Float64Array(3);
  private share = 0;

  constructor(
    private readonly before: MeshFlow,
    private readonly after: MeshFlow,
    private readonly shown: readonly [MeshField | null, MeshField | null],
    private readonly times: readonly [number, number],
  ) {
    this.fastest = Math.max(before.fastest, after.fastest);
  }

  at(x: number, y: number, z: number, time: number, out: Float64Array): Asked {
    const { before, after, other, times } = this;
    const first = before.at(x, y, z, time, out);
    if (first !== HERE) return first;
    const shared = after.finder === before.finder;
    const second = shared ? after.here(other) : after.at(x, y, z, time, other);
    if (second !== HERE) return second;
    const s = (time - times[0]) / (times[1] - times[0]);
    this.share = s;
    for (let k = 0; k < 3; k++) out[k] += s * (other[k] - out[k]);
    return HERE;
  }

  reach = (): number => Math.min(this.before.reach(), this.after.reach());

  piece = (): number => this.before.piece();

  settle(place: Float64Array): void {
    this.before.settle(place);
  }

  /** What a quantity is where the flow was asked last, mixed in the same way; NaN where a step does not have it. */
  valueHere(component: Component): number {
    const [a, b] = [this.before, this.after].map((flow, i) => valueAt(this.shown[i], flow, component));
    return a + this.share * (b - a);
  }
}

function valueAt(field: MeshField | null, { finder }: MeshFlow, component: Component): number {
  if (!field) return Number.NaN;
  const { data, components, location } = field;
  const of = (k: number): number => {
    return location === 'cell' ? data[components * finder.cell + k] : finder.between(data, components, k);
  };
  if (component !== 'magnitude') return of(component);
  return Math.hypot(...Array.from({ length: components }, (_, k) => of(k)));
}

/** A step got ready: its flow is made once for both stretches it ends. */
interface ReadyStep {
  input: StepInput;
  flow: MeshFlow;
  shown: MeshField | null;
}

/**
 * Carries things along a flow that changes from step to step, until a time; between steps the flow goes evenly from one to the
 * next. Two steps are held at a time, whatever the number of steps.
 *
 * @param shown key of a quantity that is told along the way; null for none
 */
export async function drift(
  drifters: readonly Drifter[],
  steps: StepsThrough,
  field: string,
  shown: string | null,
  until: number,
  limits: Omit<TraceLimits, 'time'>,
): Promise<void> {
  const { times } = steps;
  let before: ReadyStep | null = null;
  for (let i = 0; i + 1 < times.length && times[i] < until; i++) {
    const [begin, end] = [times[i], Math.min(times[i + 1], until)];
    const moving = drifters.filter((d) => d.end === null && d.from < end);
    if (moving.length === 0) {
      before = null;
      continue;
    }
    const first: ReadyStep | null = before ?? (await readied(steps, i, field, shown, null));
    const second = await readied(steps, i + 1, field, shown, first);
    before = second;
    if (!first || !second) {
      for (const d of moving) d.end = 'left';
      continue;
    }
    const flow = new BetweenSteps(
      first.flow,
      second.flow,
      [first.shown, second.shown],
      [times[i], times[i + 1]],
    );
    for (const d of moving) carry(d, flow, Math.max(begin, d.from), end, limits);
  }
}

function carry(
  d: Drifter,
  flow: BetweenSteps,
  begin: number,
  end: number,
  limits: Omit<TraceLimits, 'time'>,
): void {
  const tracer = new LineTracer(flow, { ...limits, length: limits.length - d.length, time: end - begin });
  const isFirst = begin === d.from;
  let seen = 0;
  let gone = 0;
  const why = tracer.trace({ place: d.place, time: begin, sense: 1 }, (x, y, z, time, length) => {
    // Where a stretch begins the one before has ended.
    if (seen++ > 0 || isFirst) d.onPoint(x, y, z, time, d.length + length, flow);
    gone = length;
    d.place = [x, y, z];
  });
  d.length += gone;
  if (why === 'time') return;
  d.end = why === 'outside' && !isFirst ? 'left' : why;
}

async function readied(
  steps: StepsThrough,
  index: number,
  field: string,
  shown: string | null,
  before: ReadyStep | null,
): Promise<ReadyStep | null> {
  const input = await steps.at(index);
  const velocity = input?.field(field);
  if (!input || !velocity || velocity.components < 2) return null;
  const finder = before?.input.mesh === input.mesh ? before.flow.finder : null;
  const flow = new MeshFlow(input.mesh, input.blocks(), velocity, finder);
  return { input, flow, shown: shown === null ? null : input.field(shown) };
}
