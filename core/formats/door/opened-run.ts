import type { PartKind } from '../../model/field.ts';
import type { OpenedMesh, OpenedPart, OpenedRun } from '../format.ts';
import { Findings } from './findings.ts';

/** An opened file with the parts given and, unless told otherwise, one step without a time. */
export function openedRun(parts: OpenedPart[], more: Partial<OpenedRun> = {}): OpenedRun {
  return {
    kind: 'run',
    steps: [null],
    parts,
    lengthUnit: null,
    timeUnit: null,
    facts: {},
    findings: new Findings(),
    uses: [],
    sets: [],
    title: null,
    ...more,
  };
}

/** A part that is the same at every step of its file. */
export const steadyPart = (name: string | null, mesh: OpenedMesh, kind: PartKind = 'mesh'): OpenedPart => ({
  name,
  kind,
  at: () => mesh,
});

/** Calls `make` once, when first asked. */
export function once<T>(make: () => T): () => T {
  let made: { value: T } | null = null;
  return () => (made ??= { value: make() }).value;
}
