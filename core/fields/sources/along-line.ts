import { isLonePoints } from '../../model/run.ts';
import { madeWithShapes } from './made-with-shapes.ts';

/** What operations that make lines know of every point along them, by key. */
export const ALONG_LINE = {
  time: 'line:time',
  length: 'line:length',
  number: 'line:number',
} as const;

/** Unit of time of a velocity: `s` of `m/s`. */
const timeOf = (velocity: string | null | undefined): string | null =>
  /\/\s*(\p{L}+)$/u.exec(velocity ?? '')?.[1] ?? null;

/** Travel time, length and number along lines that follow a flow, or particles from step to step. */
export const alongLine = madeWithShapes({
  id: 'along line',
  prefix: 'line',
  lacking: 'vectors to follow',
  all(run) {
    const vector = run.fields.find((f) => f.role === 'velocity') ?? run.fields.find((f) => f.components >= 2);
    if (!vector && !(run.steps.length > 1 && run.parts.some(isLonePoints))) return null;
    return {
      time: { name: 'travel time', unit: run.timeUnit ?? timeOf(vector?.unit) },
      length: { name: 'length along line', unit: run.lengthUnit },
      number: { name: 'line number', role: 'identifier' },
    };
  },
});
