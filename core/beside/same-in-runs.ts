import { parseQuantity } from '../model/quantity.ts';
import { fieldByKey, type RunDescription } from '../model/run.ts';
import type { SameQuantity } from './linked-edits.ts';

/**
 * Whether quantities of two runs are the same: by their keys, or where one of the runs calls it otherwise, by what they mean for
 * the job, as temperature does.
 */
export function sameInRuns(from: RunDescription | undefined, to: RunDescription | undefined): SameQuantity {
  return (a, b) => {
    if (a === b) return true;
    if (!from || !to) return false;
    const [one, other] = [parseQuantity(a), parseQuantity(b)];
    const [mine, theirs] = [fieldByKey(from, one.field), fieldByKey(to, other.field)];
    if (!mine || !theirs || mine.role === 'other' || mine.role !== theirs.role) return false;
    // What both runs have under one name is not meant by another.
    if (fieldByKey(to, one.field) || fieldByKey(from, other.field)) return false;
    return one.component === other.component && mine.components === theirs.components;
  };
}
