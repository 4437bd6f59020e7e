import { basename } from 'node:path';
import { type FileProblem, problemOf } from '#core/model/read-error.ts';

export const withShortName = (p: FileProblem): FileProblem => ({ ...p, file: basename(p.file) });

export function intakeProblem(error: unknown): FileProblem {
  const code = (error as NodeJS.ErrnoException)?.code;
  if (code === 'ENOSPC') {
    return {
      file: 'data folder',
      reason: 'the disk is full',
      where: 'writing arrays',
      remedy: 'Free some space and import again; nothing was stored.',
    };
  }
  return problemOf('import', error);
}
