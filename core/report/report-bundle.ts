import { boundedNumber } from '../model/bounded-number.ts';
import { ReadError } from '../model/read-error.ts';
import { z } from '../model/schema.ts';
import { idSchema } from './blocks/block.ts';
import { reportSchema } from './report.ts';

const linked = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('scene'),
    name: z.string().max(300),
    /** Of the run it was made on. */
    run: z.string().max(300),
    /** A scene document, with the files that go with it in base64; see `readSceneFile`. */
    scene: z.unknown(),
    /** Of its film, in seconds; null for its step. */
    film: boundedNumber().min(0).nullable(),
  }),
  /** A set without its runs. */
  z.object({ kind: z.literal('set'), name: z.string().max(300), set: z.unknown() }),
]);

export const reportBundleSchema = z.object({
  dresser: z.literal('report'),
  version: z.literal(1),
  report: reportSchema,
  /** What it is linked to, by the ids of its sources; what was gone is lacking. */
  linked: z.record(idSchema, linked),
});

/** A report with everything that it is linked to but the runs: to be filled from other runs, or elsewhere. */
export type ReportBundle = z.infer<typeof reportBundleSchema>;
export type LinkedInBundle = z.infer<typeof linked>;

/** @throws ReadError when a text is no such file */
export function readReportBundle(text: string, where: string): ReportBundle {
  const refuse = (reason: string): ReadError =>
    new ReadError(reason, where, 'Give a report file that was saved from the Report desk.');
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw refuse('the file is not JSON');
  }
  const read = reportBundleSchema.safeParse(json);
  if (read.success) return read.data;
  const [issue] = read.error.issues;
  throw refuse(`it is no report file: ${issue.path.join(' / ').slice(0, 200) || 'top'}, ${issue.message}`);
}

/** A run that a bundle can be opened on. */
export interface RunForBundle {
  id: string;
  name: string;
}

/**
 * The run for each scene of a bundle, by the ids of the sources: that of its name, else the only one there is, else the one that
 * stands where its run stands among those the report was made of.
 *
 * @returns null for those that none is meant for
 */
export function runsForBundle(
  { linked: all, report }: ReportBundle,
  runs: readonly RunForBundle[],
): Map<string, string | null> {
  const scenes = report.sources.flatMap(({ id }) => {
    const found = all[id];
    return found?.kind === 'scene' ? [{ id, run: found.run }] : [];
  });
  const names = [...new Set(scenes.map((s) => s.run))];
  const isKnown = names.some((name) => runs.some((r) => r.name === name));
  return new Map(
    scenes.map(({ id, run }) => {
      const own = runs.find((r) => r.name === run);
      if (own) return [id, own.id];
      if (runs.length === 1) return [id, runs[0].id];
      // Where none has a name that is known, all are others, in the same order.
      return [id, isKnown ? null : (runs[names.indexOf(run)]?.id ?? null)];
    }),
  );
}
