import type { RawMesh } from '#core/formats/format.ts';
import { openFile } from '#core/formats/registry.ts';
import { type FieldToWrite, writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { NumberArray } from '#core/model/arrays.ts';
import { type ArrayRef, arrayTypeOf, type RunDescription } from '#core/model/run.ts';
import { emptyPlan, type RunPlan } from '#core/model/run-plan.ts';
import { importRun, localHost } from '#engine/import-run.ts';
import { hexBlock } from './vtu-builder.ts';

/** A store in memory whose names are counted contents, for tests. */
export class MemoryStore {
  readonly arrays = new Map<string, NumberArray>();
  private readonly known = new Map<string, string>();

  async put(data: NumberArray): Promise<ArrayRef> {
    const content = `${arrayTypeOf(data)}:${Array.from(data).join()}`;
    const hash = this.known.get(content) ?? `array-${this.known.size}`;
    this.known.set(content, hash);
    this.arrays.set(hash, data);
    return { hash, type: arrayTypeOf(data), length: data.length };
  }

  load = async (ref: ArrayRef): Promise<ArrayBuffer> => {
    const data = this.arrays.get(ref.hash)!;
    return data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength) as ArrayBuffer;
  };
}

export interface SampleStep {
  time: number | null;
  parts: Record<string, Uint8Array>;
}

export const temperature = (
  mesh: RawMesh,
  at: (x: number, y: number, z: number) => number,
): FieldToWrite => ({
  name: 'temperature',
  location: 'point',
  components: 1,
  unit: '°C',
  data: Float32Array.from({ length: mesh.points.length / 3 }, (_, i) =>
    at(mesh.points[3 * i], mesh.points[3 * i + 1], mesh.points[3 * i + 2]),
  ),
});

/** Three steps of an oven block whose temperature rises by 10 each step. */
export function ovenSteps(): SampleStep[] {
  const mesh = hexBlock(4);
  return [0, 1, 2].map((n) => ({
    time: null,
    parts: {
      oven: writeVtu(mesh, [temperature(mesh, (x, y, z) => 20 + 10 * n + x + 2 * y + 3 * z)], 5 * n, {
        length: 'm',
        time: 's',
      }),
    },
  }));
}

/** Imports steps given as bytes. */
export async function importSteps(steps: SampleStep[], store = new MemoryStore()) {
  const files = new Map<string, Uint8Array>();
  const plan: RunPlan = emptyPlan('oven');
  for (const [n, step] of steps.entries()) {
    const list = Object.entries(step.parts).map(([part, bytes]) => {
      const path = `${part}_${n}.vtu`;
      files.set(path, bytes);
      return { path, part, piece: null, step: 0 };
    });
    plan.steps.push({ time: step.time, files: list });
  }
  return {
    store,
    plan,
    ...(await importRun(plan, {}, localHost({ open: (p) => openFile(files.get(p)!), sink: store }))),
  };
}

export async function ovenRun(): Promise<RunDescription> {
  return (await importSteps(ovenSteps())).run;
}

/** A run of which every step also has a displacement, as large as that. */
export function withDisplacement(run: RunDescription, largest: number): RunDescription {
  const statistics = { min: 0, max: largest, sum: largest, count: 2, nanCount: 0 };
  const overall = { components: [statistics, statistics, statistics], magnitude: statistics };
  const shift = {
    ...run.fields[0],
    key: 'point:displacement',
    name: 'displacement',
    components: 3,
    unit: 'm',
    role: 'displacement' as const,
    perStep: run.steps.map(() => overall),
    overall,
  };
  return { ...run, fields: [...run.fields, shift] };
}
