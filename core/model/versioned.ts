/** Anything whose stored form may change from one version of Dresser to the next. */
export interface Versioned {
  /** Form it is written in now; absent for the first. */
  version?: number;
  /** Steps from an older form to the next: `migrations[n]` takes form n to n + 1. */
  migrations?: Record<number, (old: Record<string, unknown>) => Record<string, unknown>>;
}

/** Form of something; the first one goes without saying. */
export const versionOf = ({ version = 1 }: { version?: number }): number => version;

/**
 * A stored value in the form of now. What a newer version wrote stays as it is.
 *
 * @param written form it was written in
 */
export function inFormOfNow(
  value: Record<string, unknown>,
  written: number,
  declared: Versioned,
): Record<string, unknown> {
  let out = value;
  // What a damaged document says of its form is no form: then it is taken for the first.
  const from = Number.isInteger(written) && written >= 1 ? written : 1;
  for (let version = from; version < versionOf(declared); version++) out = declared.migrations![version](out);
  return out;
}
