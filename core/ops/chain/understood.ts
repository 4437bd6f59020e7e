import { type AnyOperation, operations } from '../registry.ts';
import type { ChainStep } from './chain.ts';
import { isNewer } from './step.ts';

/** A step of a chain whose operation is known here and whose options fit it. */
export interface Understood {
  operation: AnyOperation;
  // biome-ignore lint/suspicious/noExplicitAny: options were checked by the schema of the operation they belong to
  options: any;
}

/**
 * What a step means, or null when this version does not know its operation or its options do not fit. Such a step is
 * kept as it stands, passed over when drawing, and said to be not understood.
 */
export function understood(step: ChainStep): Understood | null {
  const operation = operations.find((op) => op.id === step.op);
  if (!operation || isNewer(step, operation)) return null;
  const options = operation.schema.safeParse(step.options);
  return options.success ? { operation, options: options.data } : null;
}

/** The steps of a chain that are understood, with all their options. */
export const understoodSteps = <S extends ChainStep>(chain: readonly S[]): S[] =>
  chain.flatMap((step) => {
    const known = understood(step);
    return known ? [{ ...step, options: known.options }] : [];
  });

/** Why a step is not understood, in words for a person; null when it is. */
export function whyNotUnderstood(step: ChainStep): string | null {
  const operation = operations.find((op) => op.id === step.op);
  if (!operation) return `This version has no operation “${step.op}”.`;
  if (isNewer(step, operation)) return `“${operation.name}” was written by a newer version.`;
  const options = operation.schema.safeParse(step.options);
  if (options.success) return null;
  const [{ path, message }] = options.error.issues;
  return `The options of “${operation.name}” do not fit: ${path.length > 0 ? `${path.join(' ')}: ` : ''}${message.replace(/\.$/, '').toLowerCase()}.`;
}
