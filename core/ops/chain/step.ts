import { type AnyOperation, operations } from '../registry.ts';
import type { ChainStep } from './chain.ts';

/** Form of the options of an operation; the first one goes without saying. */
const versionOf = ({ version = 1 }: { version?: number }): number => version;

/** A step as it is written by this version. */
export function newStep(
  operation: AnyOperation,
  options: unknown,
): { op: string; options: unknown; off: boolean } {
  const version = versionOf(operation);
  return { op: operation.id, options, off: false, ...(version > 1 ? { version } : {}) };
}

/**
 * A step with its options as this version writes them. Steps of operations that are not known, or that a newer version
 * wrote, stay as they are.
 */
export function currentStep<S extends ChainStep>(step: S, known: readonly AnyOperation[] = operations): S {
  const operation = known.find((o) => o.id === step.op);
  if (!operation || versionOf(step) >= versionOf(operation)) return step;
  let options = step.options as Record<string, unknown>;
  for (let version = versionOf(step); version < versionOf(operation); version++)
    options = operation.migrations![version](options);
  return { ...step, options, version: versionOf(operation) };
}

/** Whether a newer version than this one wrote a step. */
export const isNewer = (step: ChainStep, operation: AnyOperation): boolean =>
  versionOf(step) > versionOf(operation);
