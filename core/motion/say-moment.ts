import { stepOfMoment } from '../model/moment.ts';
import type { RunDescription } from '../model/run.ts';
import type { Scene } from '../scene/document.ts';
import { momentOnShow } from '../scene/moment-on-show.ts';
import { sayStep } from './step-text.ts';

/** The moment that a scene shows, as its stamp writes it, with the number of its step from 1; null where it shows several. */
export function sayMoment(scene: Scene, run: RunDescription): { step: number; time: string } | null {
  const moment = momentOnShow(scene);
  if (!moment || run.steps.length === 0) return null;
  return { step: moment.step + 1, time: sayStep(stepOfMoment(run, moment), run.timeUnit, scene.stamp) };
}
