import { readFileSync } from 'node:fs';
import { memorySource } from '#core/formats/bytes/byte-source.ts';
import type { Findings } from '#core/formats/door/findings.ts';
import type { FileFormat, Opened, OpenedMesh, OpenedRun, ReadTools } from '#core/formats/format.ts';
import { portableTools } from '#core/formats/portable-tools.ts';
import { openBytes } from '#web/server/reading.ts';

/** The first part of a file at one step, with what the file says of itself. */
export interface OneMesh extends OpenedMesh {
  time: number | null;
  timeUnit: string | null;
  lengthUnit: string | null;
  findings: Findings;
  run: OpenedRun;
}

export function firstMesh(opened: Opened, step = 0): OneMesh {
  if (opened.kind !== 'run') throw new Error(`a ${opened.kind}, not a run`);
  const mesh = opened.parts[0].at(step)!;
  const { timeUnit, lengthUnit, findings } = opened;
  return Object.assign(mesh, { time: opened.steps[step], timeUnit, lengthUnit, findings, run: opened });
}

/** Opens bytes with one format, at once; only for formats that need not wait. */
export const openWith = (format: FileFormat, bytes: Uint8Array, tools: Partial<ReadTools> = {}): OneMesh =>
  firstMesh(format.open(memorySource(bytes), { ...portableTools, ...tools }) as Opened);

export const openMesh = async (path: string): Promise<OneMesh> =>
  firstMesh(await openBytes(new Uint8Array(readFileSync(path)), path));
