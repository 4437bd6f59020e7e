import { sayNumber } from '#core/language/sentence.ts';
import type { EndsOfBatch } from '#web/server/batches-of-set.ts';

/** `: T from 77.07 to 239.4`, once it is known. */
export const saidEnds = (ends: readonly EndsOfBatch[]): string =>
  ends.length === 0
    ? ''
    : `: ${ends.map(({ name, low, high }) => `${name} from ${sayNumber(low)} to ${sayNumber(high)}`).join(', ')}`;
