import { isLonePoints, type RunDescription, type RunField } from '../../model/run.ts';
import { madeField, type QuantitySource } from './quantity-source.ts';

/** What operations that make lines know of every point along them, by key. */
export const ALONG_LINE = {
  time: 'line:time',
  length: 'line:length',
  number: 'line:number',
} as const;

/** Unit of time of a velocity: `s` of `m/s`. */
const timeOf = (velocity: string | null | undefined): string | null =>
  /\/\s*(\p{L}+)$/u.exec(velocity ?? '')?.[1] ?? null;

function fieldOf(run: RunDescription, name: string): RunField | null {
  const vector = run.fields.find((f) => f.role === 'velocity') ?? run.fields.find((f) => f.components >= 2);
  // Lines follow a flow, or particles from step to step.
  if (!vector && !(run.steps.length > 1 && run.parts.some(isLonePoints))) return null;
  const all: Record<string, Partial<RunField> & { name: string }> = {
    time: { name: 'travel time', unit: run.timeUnit ?? timeOf(vector?.unit) },
    length: { name: 'length along line', unit: run.lengthUnit },
    number: { name: 'line number', role: 'identifier' },
  };
  return Object.hasOwn(all, name)
    ? madeField(run, { key: `line:${name}`, location: 'point', components: 1, ...all[name] })
    : null;
}

/**
 * Travel time, length and number along lines that follow a flow. No part has them: they come with the lines, so that their
 * range is known only of what is shown.
 */
export const alongLine: QuantitySource = {
  id: 'along line',
  prefixes: ['line'],
  usual: false,
  changes: true,
  needsMesh: false,
  comesWithShapes: true,
  offers: (run) => ['time', 'length', 'number'].flatMap((name) => fieldOf(run, name) ?? []),
  field: (name, _prefix, run) => fieldOf(run, name),
  lacking: (name, _prefix, run) => (fieldOf(run, name) ? null : 'vectors to follow'),
  origin: () => null,
  compute() {
    throw new Error('What comes with shapes is not computed of parts.');
  },
};
