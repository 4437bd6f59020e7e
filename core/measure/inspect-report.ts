import type { Bounds } from '../model/mesh.ts';
import type { FileProblem } from '../model/read-error.ts';
import type { RunDescription, RunField } from '../model/run.ts';
import { meanOf, type Statistics } from './statistics.ts';

export interface InspectedField {
  name: string;
  location: 'point' | 'cell';
  components: number;
  unit: string | null;
  /** Of the value, or of the length of a vector; null for fields with four or more components. */
  min: number | null;
  max: number | null;
  mean: number | null;
  componentRanges: { min: number | null; max: number | null; mean: number | null }[];
  nanCount: number;
}

export interface InspectedRun {
  name: string;
  dimension: number;
  parts: {
    name: string;
    kind: string;
    points: number;
    cells: number;
    cellsByType: Record<string, number>;
    bounds: Bounds;
  }[];
  steps: { index: number; time: number }[];
  timeUnit: string | null;
  lengthUnit: string | null;
  fields: InspectedField[];
  warnings: string[];
}

/** What `inspect --json` prints. The shape is kept stable; see docs/cli.md. */
export interface InspectReport {
  runs: InspectedRun[];
  errors: FileProblem[];
}

export function inspectRun(run: RunDescription): InspectedRun {
  return {
    name: run.name,
    dimension: run.dimension,
    parts: run.parts.map((part) => {
      const first = part.steps.find((s) => s !== null);
      const mesh = part.meshes[first?.mesh ?? 0];
      return {
        name: part.name,
        kind: part.kind,
        points: mesh.pointCount,
        cells: mesh.cellCount,
        cellsByType: mesh.cellsByType,
        bounds: mesh.bounds,
      };
    }),
    steps: run.steps.map(({ index, time }) => ({ index, time })),
    timeUnit: run.timeUnit,
    lengthUnit: run.lengthUnit,
    fields: run.fields.map(inspectField),
    warnings: run.warnings,
  };
}

function inspectField(field: RunField): InspectedField {
  const { overall } = field;
  const main = overall.magnitude ?? (field.components === 1 ? overall.components[0] : null);
  return {
    name: field.name,
    location: field.location,
    components: field.components,
    unit: field.unit,
    ...(main ? numbers(main) : { min: null, max: null, mean: null }),
    componentRanges: overall.components.map(numbers),
    nanCount: overall.components.reduce((n, s) => n + s.nanCount, 0),
  };
}

const numbers = (s: Statistics) =>
  s.count > 0 ? { min: s.min, max: s.max, mean: meanOf(s) } : { min: null, max: null, mean: null };
