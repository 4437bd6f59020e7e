import type { RunDescription } from './run.ts';

/** Version that is written. Older ones are brought to it step by step, newer ones are refused. */
export const RUN_VERSION = 3;

type Stored = Record<string, unknown> & Partial<RunDescription>;

/** Steps from an older version to the next one: `runMigrations[n]` takes version n to n + 1. */
export const runMigrations: Record<number, (old: Stored) => Stored> = {
  /** Polyhedra, pictures, rotating frames, part sets, tables, parameters, notes and the way back to the files. */
  1: (old) => ({
    ...old,
    parts: old.parts?.map((p) => ({
      ...p,
      frame: p.frame ?? null,
      picture: p.picture ?? null,
      meshes: p.meshes.map((m) => ({ ...m, faces: m.faces ?? null, faceStarts: m.faceStarts ?? null })),
    })),
    fields: old.fields?.map((f) => ({ ...f, pair: f.pair ?? null })),
    sets: old.sets ?? [],
    tables: old.tables ?? [],
    parameters: old.parameters ?? {},
    notes: [],
    source: old.source ?? null,
  }),
  /** Ranges of quantities that no file states; what the steps are: all were taken for times. */
  2: (old) => ({
    ...old,
    measured: {},
    steps: old.steps?.map((s, i) => ({ ...s, kind: 'time' as const, number: i + 1 })),
  }),
};

/** Runs said no version before the third. */
const versionOf = ({ version, notes }: Stored): number => version ?? (notes ? 2 : 1);

/**
 * A description of a run as this version writes it.
 *
 * @throws Error when it was written by a newer version
 */
export function migratedRun(stored: unknown): RunDescription {
  let run = stored as Stored;
  const from = versionOf(run);
  if (from > RUN_VERSION)
    throw new Error(
      `The run was stored by a newer version (its form is ${from}, known are up to ${RUN_VERSION}). Update Dresser.`,
    );
  if (run.version === RUN_VERSION) return run as RunDescription;
  for (let version = from; version < RUN_VERSION; version++) run = runMigrations[version](run);
  return { ...run, version: RUN_VERSION } as RunDescription;
}
