import { z } from '../model/schema.ts';
import { type Finish, type FinishValues, finishValuesSchema } from './finish.ts';
import { finishById } from './finishes/registry.ts';

/** A finish made by hand; it lives in the line or the part that wears it. */
export interface OwnFinish extends FinishValues {
  name: string;
}

/** One that ships by its id, one of one's own, or none: plain colour in plain light. */
export type FinishOf = string | OwnFinish | null;

export const finishSchema: z.ZodType<FinishOf> = z.union([
  z.string().min(1).max(100),
  finishValuesSchema.extend({ name: z.string().min(1).max(100) }),
  z.null(),
]);

/** What it is made of; null where there is none, or none of that name in this version. */
export const valuesOf = (finish: FinishOf): (FinishValues & Pick<Finish, 'name'>) | null =>
  typeof finish === 'string' ? (finishById(finish) ?? null) : finish;

/** As sentences call it. */
export const nameOfFinish = (finish: Exclude<FinishOf, null>): string =>
  typeof finish === 'string' ? (finishById(finish)?.name ?? `${finish} (not in this version)`) : finish.name;

/** One's own that is made as another one is, under another name. */
export function ownLike(finish: FinishValues & Partial<Finish>, name: string): OwnFinish {
  const { id: _, group: _of, ...values } = finish;
  return { ...values, name };
}
