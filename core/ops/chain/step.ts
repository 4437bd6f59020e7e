import { inFormOfNow, versionOf } from '../../model/versioned.ts';
import { type AnyOperation, operations } from '../registry.ts';
import type { ChainStep } from './chain.ts';

/** A step as it is written by this version. It gets its id in the chain it is put into, see `withStepIds`. */
export function newStep(
  operation: AnyOperation,
  options: unknown,
): { op: string; options: unknown; off: boolean } {
  const version = versionOf(operation);
  return { op: operation.id, options, off: false, ...(version > 1 ? { version } : {}) };
}

/**
 * A step with its options as this version writes them, those that are new at their usual values. Steps of operations that
 * are not known, or that a newer version wrote, stay as they are.
 */
export function currentStep<S extends ChainStep>(step: S, known: readonly AnyOperation[] = operations): S {
  const operation = known.find((o) => o.id === step.op);
  if (!operation || isNewer(step, operation)) return step;
  if (versionOf(step) === versionOf(operation)) return withUsual(step, operation);
  const options = inFormOfNow(step.options as Record<string, unknown>, versionOf(step), operation);
  return withUsual({ ...step, options, version: versionOf(operation) }, operation);
}

/** A step with the options it does not name at their usual values; one that names all, or does not fit, as it is. */
function withUsual<S extends ChainStep>(step: S, { schema }: AnyOperation): S {
  const options = step.options as Record<string, unknown>;
  const whole = schema.safeParse(options);
  if (!whole.success || Object.keys(whole.data).every((key) => key in options)) return step;
  return { ...step, options: { ...options, ...whole.data } };
}

/** Whether a newer version than this one wrote a step. */
export const isNewer = (step: ChainStep, operation: AnyOperation): boolean =>
  versionOf(step) > versionOf(operation);

/**
 * A chain in which every step has an id of its own, by which it is found whatever its place. Steps that have one keep
 * it; the others get the lowest that is free.
 */
export function withStepIds<S extends ChainStep>(chain: readonly S[]): (S & { id: string })[] {
  const taken = new Set<string>();
  for (const { id } of chain) if (id) taken.add(id);
  const used = new Set<string>();
  return chain.map((step) => {
    let { id } = step;
    // Of two with the same id the later one is the stranger.
    for (let n = 1; !id || used.has(id); n++) if (!taken.has(`step-${n}`)) id = `step-${n}`;
    taken.add(id);
    used.add(id);
    return { ...step, id };
  });
}
