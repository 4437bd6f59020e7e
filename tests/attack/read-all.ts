import { createHash } from 'node:crypto';
import { memorySource } from '#core/formats/bytes/byte-source.ts';
import { portableTools } from '#core/formats/portable-tools.ts';
import { openSource } from '#core/formats/registry.ts';
import { normalPath } from '#core/formats/series.ts';
import { ReadError } from '#core/model/read-error.ts';
import { fastTools } from '#web/server/file-source.ts';
import { openHierarchy } from '#web/server/hierarchy.ts';
import type { BaseDrop } from './base-files.ts';

/** What a file gave: a digest of all its numbers, how many steps, and what was told. */
export interface AllRead {
  kind: string;
  digest: string;
  steps: number;
  told: string[];
}

/** The file of a drop that a person would open; lists and archives have none that is read by itself. */
export function mainFile(drop: BaseDrop): string | null {
  if (/\.(pvd|zip|gz)$/.test(drop.name)) return null;
  return Object.keys(drop.files).find((n) => n === drop.name || n.endsWith('polyMesh/points')) ?? null;
}

/**
 * Reads all there is of a drop, one of its files having other bytes.
 *
 * @returns what was read, or how it was refused
 */
export async function readAll(
  drop: BaseDrop,
  target: string,
  bytes: Uint8Array,
): Promise<AllRead | ReadError> {
  const files = { ...drop.files, [target]: bytes };
  const main = mainFile(drop)!;
  const folder = main.slice(0, main.lastIndexOf('/') + 1);
  const at = (path: string): string => normalPath(folder + path);
  const tools = {
    ...portableTools,
    ...fastTools,
    name: main,
    hierarchy: openHierarchy,
    beside: (path: string) => (files[at(path)] ? memorySource(files[at(path)]) : null),
    listBeside: (path: string) => {
      const under = `${at(path)}/`;
      const inside = Object.keys(files).filter((f) => f.startsWith(under));
      return [...new Set(inside.map((f) => f.slice(under.length).split('/')[0]))];
    },
  };
  const hash = createHash('sha256');
  try {
    const opened = await openSource(memorySource(files[main]), tools);
    if (opened.kind !== 'run')
      return { kind: opened.kind, digest: JSON.stringify(opened), steps: 1, told: [] };
    const steps = Math.min(9, opened.steps.length);
    for (const part of opened.parts) {
      for (let step = 0; step < steps; step++) {
        const mesh = part.at(step);
        if (!mesh) continue;
        const { points, types, offsets, connectivity } = mesh.readMesh();
        for (const list of [points, types, offsets, connectivity])
          hash.update(Float64Array.from(list as Float64Array));
        for (const [i, header] of mesh.fields.entries())
          hash.update(header.name).update(Float64Array.from(mesh.readField(i) as Float64Array));
        mesh.readGroups?.();
      }
    }
    const digest = hash.digest('hex');
    return { kind: opened.kind, digest, steps: opened.steps.length, told: opened.findings.list };
  } catch (error) {
    if (error instanceof ReadError) return error;
    throw error;
  }
}
