import { operationById } from '../registry.ts';
import type { ChainStep } from './chain.ts';
import type { OperationSetting } from './operation.ts';

/** A step that is understood, with everything settled that depends on the run. */
export function settledStep<S extends ChainStep>(step: S, setting: OperationSetting): S {
  const operation = operationById(step.op);
  const options = operation.schema.parse(step.options);
  return { ...step, options: step.off ? options : (operation.settle?.(options, setting) ?? options) };
}
