import { ReadError } from '../model/read-error.ts';
import { emptyPlan, type PlannedFile, type PlannedStep, type RunPlan } from '../model/run-plan.ts';
import { unusedName } from '../model/unused-name.ts';

/** A proposed run, and the unit its lengths are in where the person says it; null as its files say. */
interface RunBeside {
  plan: RunPlan;
  lengthUnit: string | null;
}

/**
 * Proposed runs as one, each with its own steps and partitions, as parts beside each other. The run with the most steps
 * gives the steps; each of the others is held from one of its states to the next, by times where all are known, else by
 * their number, and what has but one state stands there all the time.
 *
 * @throws ReadError when their tables are read in different ways, which one run cannot
 */
export function sideBySide(runs: readonly RunBeside[]): RunPlan {
  const longest = runs.reduce((a, b) => (b.plan.steps.length > a.plan.steps.length ? b : a)).plan;
  const plans = runs.map((r) => r.plan);
  const readings = new Set(plans.flatMap((p) => (p.reading ? [JSON.stringify(p.reading)] : [])));
  if (readings.size > 1)
    throw new ReadError(
      'their tables are read in different ways',
      plans.flatMap((p) => (p.reading ? [p.name] : [])).join(', '),
      'Give the columns of all of them the same meanings, or import them as runs of their own.',
    );
  const names = ownNames(plans);
  const steps = longest.steps.map((step, n): PlannedStep => {
    const files = runs.flatMap(({ plan, lengthUnit }, i) => {
      const state = stateAt(plan, longest, n);
      return (state?.files ?? []).map(
        (file): PlannedFile => ({
          ...file,
          part: file.part ?? names[i],
          ...(lengthUnit === null ? {} : { lengthUnit }),
        }),
      );
    });
    return { time: step.time, files };
  });
  return {
    ...emptyPlan(longest.name),
    arrangement: 'parts',
    steps,
    warnings: [...plans.flatMap((p) => p.warnings), ...plans.flatMap((p) => heldOf(p, longest))],
    reading: plans.find((p) => p.reading)?.reading ?? null,
    tables: plans.flatMap((p) => p.tables),
    fieldFiles: longest.fieldFiles,
    pictures: plans.flatMap((p) => p.pictures),
    parameters: plans.flatMap((p) => p.parameters),
  };
}

/** The names of the runs, no two of them the same: else they would be taken for partitions of one part. */
function ownNames(plans: readonly RunPlan[]): string[] {
  const taken = new Set<string>();
  return plans.map(({ name }) => {
    const own = unusedName(name, (one) => taken.has(one));
    taken.add(own);
    return own;
  });
}

const timesOf = ({ steps }: RunPlan): number[] | null =>
  steps.every((s) => s.time !== null) ? steps.map((s) => s.time!) : null;

/** The state of a plan that belongs to a step of another; null before its first. */
function stateAt(plan: RunPlan, of: RunPlan, n: number): PlannedStep | null {
  const { steps } = plan;
  if (plan === of || steps.length === of.steps.length) return steps[n];
  if (steps.length === 1) return steps[0];
  const [own, theirs] = [timesOf(plan), timesOf(of)];
  if (!own || !theirs) return steps[Math.min(n, steps.length - 1)] ?? null;
  const slack = 1e-9 * (Math.abs(theirs[n]) + Math.abs(own[own.length - 1] - own[0]));
  const last = own.findLastIndex((t) => t <= theirs[n] + slack);
  return last < 0 ? null : steps[last];
}

/** What is to be known of a run whose states are held. */
function heldOf(plan: RunPlan, of: RunPlan): string[] {
  const [own, theirs] = [plan.steps.length, of.steps.length];
  if (own === theirs || own < 2) return [];
  const how =
    timesOf(plan) && timesOf(of) ? 'from its time to the next' : 'in order, the last one to the end';
  return [`“${plan.name}” has ${own} steps, “${of.name}” has ${theirs}: each state is held ${how}`];
}
