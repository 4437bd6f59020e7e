import type { Quantity } from '../../model/quantity.ts';
import type { OperationSetting } from '../chain/operation.ts';

/** What flows, or the first thing that has a direction. */
export function usualVector({ quantities }: Pick<OperationSetting, 'quantities'>): Quantity | null {
  const vectors = quantities.filter((q) => q.component === 'magnitude');
  return vectors.find((q) => q.role === 'velocity') ?? vectors[0] ?? null;
}
