import type { ImportChoices } from '#core/model/run.ts';
import type { RunPlan } from '#core/model/run-plan.ts';
import { z } from '#core/model/schema.ts';
import { holdIntake, importPlan } from '../intake.ts';
import type { FileBase } from '../reading.ts';
import type { JobKind } from './job-kind.ts';

/** Everything an import needs, so that it can be begun anew by a server that knows nothing of the drop. */
export interface ImportOrder {
  /** The drop the files came with. */
  intake: string;
  /** Whether the files lie in a folder of the server. */
  onServer: boolean;
  plan: RunPlan;
  base: FileBase;
  choices: ImportChoices;
  /** Bytes it will take on the disk. */
  bytes: number;
  /** The run that gets the content instead of a new one. */
  swap: string | null;
}

const record = (value: unknown): boolean => typeof value === 'object' && value !== null;

/**
 * Imports one proposed run. The run and its first scene become visible together, when all is read; with `swap` the run
 * of that id gets the new content instead, and its scenes stay. The result is `{ run, scene, problems, mismatches }`.
 */
export const importJob: JobKind<ImportOrder> = {
  kind: 'import',
  payload: z.object({
    intake: z.string(),
    onServer: z.boolean(),
    plan: z.custom<RunPlan>(record),
    base: z.custom<FileBase>(record),
    choices: z.custom<ImportChoices>(record),
    bytes: z.number(),
    swap: z.string().nullable(),
  }),
  retries: 0,
  hold: ({ intake }) => holdIntake(intake, true),
  work: importPlan,
};
