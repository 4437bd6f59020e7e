import { mkdir, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { Findings } from '#core/formats/door/findings.ts';
import { joinComponents } from '#core/formats/door/join-components.ts';
import { wholeMesh } from '#core/formats/door/join-pieces.ts';
import type { OpenedMesh, OpenedRun } from '#core/formats/format.ts';
import type { PartToWrite } from '#core/formats/part-to-write.ts';
import { type FileWriter, writers } from '#core/formats/writer.ts';
import { problemOf, ReadError } from '#core/model/read-error.ts';
import type { PlannedStep, RunPlan } from '#core/model/run-plan.ts';
import { isStoreError } from '#core/model/store-error.ts';
import { writeStep } from '#core/ops/write-step.ts';
import { isChosen } from '#engine/import-run.ts';
import { partName } from '#engine/read-step.ts';
import { anywhere, FileOpener, understandFiles } from '#web/server/reading.ts';
import { withFolders } from '#web/server/walk-folders.ts';
import { inFolder, writeWhole } from './write-whole.ts';

export interface ConvertOptions {
  to: string;
  out: string;
  /** Steps taken, counted from 0; null takes all. */
  steps: { from: number; to: number; every: number } | null;
}

/** Writes result files in another format; returns the exit code: 1 when something could not be read. */
export async function convertFiles(files: string[], options: ConvertOptions): Promise<number> {
  const writer = writers.find((w) => w.id === options.to);
  if (!writer) {
    console.error(`"${options.to}" is not written. Choose one of: ${writers.map((w) => w.id).join(', ')}.`);
    return 2;
  }
  const scratch = await mkdtemp(join(tmpdir(), 'dresser-'));
  let failed = false;
  const fail = (file: string, error: unknown): void => {
    const { reason, where, remedy } = problemOf(file, error);
    console.error(`${file}: ${reason}\n  where: ${where}\n  what to do: ${remedy}`);
    failed = true;
  };
  try {
    await inFolder(options.out, () => mkdir(options.out, { recursive: true }));
    const named = await withFolders(files.map((name) => ({ name, path: resolve(name) })));
    const { plans, base, problems } = await understandFiles(named, anywhere, scratch);
    for (const p of problems) fail(p.file, new ReadError(p.reason, p.where, p.remedy));
    for (const plan of plans) {
      const opener = new FileOpener(base);
      for (const [index, step] of plan.steps.entries()) {
        if (options.steps && !isChosen(index, options.steps)) continue;
        try {
          const content = await readForWriting(plan, step, opener);
          for (const [name, bytes] of await filesOf(plan, index, content, writer))
            await writeWhole(join(options.out, name), bytes).then(() => console.log(join(options.out, name)));
        } catch (error) {
          if (isStoreError(error)) throw error;
          fail(step.files[0]?.path ?? plan.name, error);
        }
      }
    }
    return failed ? 1 : 0;
  } catch (error) {
    fail(options.out, error);
    return 1;
  } finally {
    await rm(scratch, { recursive: true, force: true });
  }
}

interface Content {
  time: number | null;
  units: { length?: string; time?: string };
  parts: PartToWrite[];
}

async function readForWriting(plan: RunPlan, step: PlannedStep, opener: FileOpener): Promise<Content> {
  const parts = new Map<string, OpenedMesh[]>();
  let first: OpenedRun | null = null;
  let time = step.time;
  for (const file of step.files) {
    const opened = await opener.open(file.path, plan.reading);
    if (opened.kind !== 'run')
      throw new ReadError(
        'the file holds no mesh or points',
        'whole file',
        'Convert the result files themselves.',
      );
    first ??= opened;
    time ??= opened.steps[file.step] ?? null;
    for (const part of opened.parts) {
      const mesh = part.at(file.step);
      const name = partName(file, part.name, opened.parts.length, plan.name);
      if (mesh) parts.set(name, [...(parts.get(name) ?? []), mesh]);
    }
  }
  const findings = new Findings();
  return {
    time,
    units: { length: first?.lengthUnit ?? undefined, time: first?.timeUnit ?? undefined },
    parts: [...parts].map(([name, pieces]) => {
      const mesh = joinComponents(wholeMesh(pieces, findings));
      return {
        name,
        mesh: mesh.readMesh(),
        fields: mesh.fields.map((header, i) => ({ ...header, data: mesh.readField(i) })),
      };
    }),
  };
}

async function filesOf(
  plan: RunPlan,
  index: number,
  content: Content,
  writer: FileWriter,
): Promise<[string, Uint8Array][]> {
  const safe = (name: string): string => name.replace(/[^\p{L}\p{N}._-]+/gu, '-');
  const digits = String(plan.steps.length).length;
  const number = plan.steps.length > 1 ? `_${String(index + 1).padStart(digits, '0')}` : '';
  const name = (part: string): string => `${safe(plan.name)}${part}${number}.${writer.extension}`;
  if (writer.manyParts || content.parts.length === 1) return [[name(''), await writeStep(writer, content)]];
  return Promise.all(
    content.parts.map(
      async (part): Promise<[string, Uint8Array]> => [
        name(`-${safe(part.name)}`),
        await writeStep(writer, { ...content, parts: [part] }),
      ],
    ),
  );
}
