import { boundsDiagonal } from '../../model/mesh.ts';
import { arraysOfMesh, type PartStep, type StoredMesh } from '../../model/run.ts';
import type { PartAtStep } from './quantity-source.ts';

/** Boxes that are nearer than this share of their size touch. */
const TOUCHING = 1e-4;

/**
 * The meshes a part may go on in at a step: those that touch it, are of its dimension and hold the same fields. A flow that is
 * cut into zones has no wall between them; where it meets a plate that has no velocity there is one.
 */
export function neighbourMeshes({ run, part, step }: PartAtStep): StoredMesh[] {
  const own = part.steps[step];
  const fields = own && fieldsOf(own);
  if (!own || fields === '') return [];
  const mesh = part.meshes[own.mesh];
  return run.parts.flatMap((other) => {
    const there = other === part ? null : other.steps[step];
    if (!there || fieldsOf(there) !== fields) return [];
    const beside = other.meshes[there.mesh];
    return beside.dimension === mesh.dimension && touches(mesh, beside) ? [beside] : [];
  });
}

const fieldsOf = ({ fields }: PartStep): string => Object.keys(fields).sort().join('\n');

function touches({ bounds: a }: StoredMesh, { bounds: b }: StoredMesh): boolean {
  const near = TOUCHING * Math.max(boundsDiagonal(a), boundsDiagonal(b));
  return [0, 2, 4].every((k) => a[k] <= b[k + 1] + near && b[k] <= a[k + 1] + near);
}

/** Tells meshes from others, behind the name of what is made with them; nothing for none. */
export const besideId = (meshes: readonly StoredMesh[]): string =>
  meshes.length === 0
    ? ''
    : ` beside ${meshes
        .flatMap(arraysOfMesh)
        .map((a) => a.hash)
        .join()}`;
