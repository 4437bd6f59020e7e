import { type Answer, isLacking } from '#core/measure/measure.ts';
import { measureById } from '#core/measure/registry.ts';
import type { RunDescription } from '#core/model/run.ts';
import { type Ask, joinedAnswer } from '#core/scene/ask.ts';
import type { Scene } from '#core/scene/document.ts';
import { settingOf } from '#core/scene/setting.ts';
import type { GeometryMaker } from './geometry-maker.ts';
import { requestsOfLayer } from './layer-requests.ts';

export interface Measured extends Answer {
  unit: string | null;
}

/**
 * What is asked for at a step of a run.
 *
 * @throws Error in words where there is no answer
 */
export async function measured(
  ask: Ask,
  scene: Scene,
  run: RunDescription,
  step: number,
  maker: GeometryMaker,
): Promise<Measured> {
  const measure = measureById(ask.measure);
  const { cycle } = scene;
  const then = { ...scene, step, cycle: ask.phase === null ? cycle : { ...cycle, phase: ask.phase } };
  const { requests, trouble } = requestsOfLayer(ask.on, then, run, step, [], measure.needs(ask.options));
  if (trouble) throw new Error(trouble);
  const parts = await Promise.all(
    requests.map(async ({ request }): Promise<object> => {
      const piece = await maker.workpiece(request);
      return measure.ofPart(piece, ask.options);
    }),
  );
  const { part, answer } = joinedAnswer(ask, parts);
  if (isLacking(answer)) throw new Error(`These parts have no ${answer.lacking}.`);
  return { ...answer, unit: measure.unit(ask.options, settingOf(run, then), part) };
}
