import type { RunPlan } from '#core/model/run-plan.ts';
import type { FileOpener } from './reading.ts';

/** Files between the first and the last that are opened for their times; opening reads no mesh and no field. */
const SAMPLES = 16;

/** Times of some of the steps of a plan, by index of the step: what the plan knows, and what some files state. */
export async function sampledTimes(plan: RunPlan, opener: FileOpener): Promise<Map<number, number>> {
  const times = new Map<number, number>();
  const last = plan.steps.length - 1;
  for (const [i, { time }] of plan.steps.entries()) if (time !== null) times.set(i, time);
  for (let n = 0; n <= SAMPLES + 1; n++) {
    const i = Math.round((n * last) / (SAMPLES + 1));
    const file = plan.steps[i]?.files[0];
    if (!file || times.has(i)) continue;
    const opened = await opener.open(file.path, plan.reading).catch(() => null);
    const time = opened?.kind === 'run' ? opened.steps[file.step] : null;
    if (typeof time === 'number' && Number.isFinite(time)) times.set(i, time);
  }
  return times;
}

/** A question to the person where times go back: one series may be several runs. Null where they rise. */
export function askAboutTimes(times: Map<number, number>): string | null {
  const known = [...times].sort(([a], [b]) => a - b);
  const back = known.findIndex(([, time], n) => n > 0 && !(time > known[n - 1][1]));
  if (back < 1) return null;
  const [[before, early], [step, late]] = known.slice(back - 1, back + 1);
  return `are these several runs? The times go back from t = ${early} at step ${before + 1} to t = ${late} at step ${step + 1}: put the files together as runs or as parts, or give the steps times of their own`;
}
