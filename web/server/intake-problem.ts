import { basename } from 'node:path';
import { type FileProblem, problemOf, ReadError } from '#core/model/read-error.ts';
import { storeTrouble } from './store-trouble.ts';

/** Told by the name of the file alone: where it lies on the server is nobody's business. */
export const withShortName = (p: FileProblem): FileProblem => ({
  ...p,
  file: basename(p.file),
  where: p.where.replaceAll(p.file, basename(p.file)),
  reason: p.reason.replaceAll(p.file, basename(p.file)),
});

/** What is told when work fails: its own refusal, trouble with the store, or, for what nobody foresaw, no more than that. */
export function intakeProblem(error: unknown): FileProblem {
  const told = storeTrouble(error) ?? error;
  const known = told as Partial<FileProblem>;
  if (known.reason && known.where && known.remedy)
    return withShortName(problemOf((told as { file?: string }).file ?? 'import', told));
  console.error(error);
  return problemOf(
    'import',
    new ReadError(
      'this went wrong in a way nobody foresaw',
      'server',
      'Try again; the terminal of Dresser says more. Nothing half was kept.',
    ),
  );
}
