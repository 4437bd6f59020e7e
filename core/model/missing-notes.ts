import { loneHalves } from './roles.ts';
import type { RunDescription, RunField } from './run.ts';

/**
 * What a run lacks for the job, told as what will not be possible, and what must be stated by hand. Common practice,
 * no source.
 */
export function missingNotes(run: RunDescription): string[] {
  const out: string[] = [];
  const has = (...roles: RunField['role'][]): boolean => run.fields.some((f) => roles.includes(f.role));
  if (has('stress', 'strain') && !has('displacement'))
    out.push('no displacement: the deformed shape will not be available');
  if (has('displacement') && !has('stress', 'strain'))
    out.push('no stress: only the shape and the displacement can be coloured');
  if (has('pressure', 'temperature') && !has('velocity', 'relative velocity', 'displacement', 'stress')) {
    const vector = run.fields.find((f) => f.components === 2 || f.components === 3);
    out.push(
      vector
        ? `no velocity among the vectors: arrows and streamlines begin with ${vector.name}`
        : 'no velocity: arrows and streamlines will not be available',
    );
  }
  const solid = run.parts.some((p) => p.meshes.some((m) => m.dimension === 3));
  const shell = run.parts.some((p) => p.kind === 'mesh' && p.meshes.some((m) => m.dimension === 2));
  if (run.dimension === 3 && shell && !solid) out.push('only surfaces: sections show lines, not areas');
  if (run.parts.some((p) => p.kind === 'particles') && !has('diameter'))
    out.push('no diameter: particles are drawn at one size');
  for (const { name, lacks, such } of loneHalves(run.fields))
    out.push(`no ${lacks} beside ${name} (such as ${such}, of the same kind): it cannot swing`);
  for (const part of run.parts) {
    if (!part.frame && part.meshes.length > 0 && has('relative velocity'))
      out.push(
        `the velocity of ${part.name} is named as relative: state the axis and speed of its frame to get the absolute one`,
      );
  }
  if (run.lengthUnit === null && run.parts.length > 0)
    out.push('no unit of length: state it once and it is shown everywhere');
  return out;
}
