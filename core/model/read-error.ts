/** A refusal that tells its reader what is wrong, where, and what to do about it. */
export class ReadError extends Error {
  override readonly name: string = 'ReadError';
  constructor(
    readonly reason: string,
    readonly where: string,
    readonly remedy: string,
  ) {
    super(`${reason} (${where}). ${remedy}`);
  }
}

/** A file that ends before what it announces, so that what stands before may still be worth showing. */
export class CutOffError extends ReadError {
  constructor(reason: string, where: string) {
    super(reason, where, 'The file may be cut off or damaged; copy or write it again.');
  }
}

/** The same three facts with the file they belong to, as shown on screen and printed by `inspect`. */
export interface FileProblem {
  file: string;
  reason: string;
  where: string;
  remedy: string;
}

/** Turns anything thrown while reading `file` into a problem that can be shown. */
export function problemOf(file: string, error: unknown): FileProblem {
  if (error instanceof ReadError) {
    return { file, reason: error.reason, where: error.where, remedy: error.remedy };
  }
  const told = error as Partial<FileProblem> | undefined;
  if (told?.reason && told.where && told.remedy) {
    return { file, reason: told.reason, where: told.where, remedy: told.remedy };
  }
  return {
    file,
    reason: error instanceof Error ? error.message : String(error),
    where: 'while reading the file',
    remedy: 'Write the file again from the solver, or leave it out.',
  };
}
