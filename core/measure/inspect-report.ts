import type { Bounds } from '../model/mesh.ts';
import type { FileProblem } from '../model/read-error.ts';
import type { RunDescription, RunField, RunStep } from '../model/run.ts';
import { meanOf, type Statistics } from '../model/statistics.ts';

export interface InspectedField {
  name: string;
  location: 'point' | 'cell';
  components: number;
  unit: string | null;
  /** Names of the scalars of the files it was put together from; empty where the files hold it as it is. */
  joinedFrom: string[];
  /** What it seems to mean for the job. */
  role: string;
  /** Which half of which complex quantity it is. */
  complex: { half: string; of: string } | null;
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
    /** Whether its mesh changes between steps; counts and bounds are those of the first. */
    changing: boolean;
  }[];
  steps: RunStep[];
  timeUnit: string | null;
  lengthUnit: string | null;
  fields: InspectedField[];
  /** Groups of parts and cells that the files name. */
  sets: { name: string; parts: { part: string; cells: number }[] }[];
  tables: {
    name: string;
    rows: number;
    /** Name of the column that holds the time. */
    time: string | null;
    columns: {
      name: string;
      unit: string | null;
      first: number | null;
      last: number | null;
      min: number | null;
      max: number | null;
      mean: number | null;
    }[];
  }[];
  /** Inputs and results of the run as a whole. */
  parameters: Record<string, number | string>;
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
        changing: part.meshes.length > 1,
      };
    }),
    steps: run.steps,
    timeUnit: run.timeUnit,
    lengthUnit: run.lengthUnit,
    fields: run.fields.map(inspectField),
    sets: run.sets.map((s) => ({
      name: s.name,
      parts: s.parts.map(({ part, count }) => ({ part, cells: count })),
    })),
    tables: run.tables.map((t) => ({
      name: t.name,
      rows: t.rows,
      time: t.time === null ? null : t.columns[t.time].name,
      columns: t.columns.map(({ name, unit, first, last, statistics }) => ({
        name,
        unit,
        first,
        last,
        ...numbers(statistics),
      })),
    })),
    parameters: run.parameters,
    warnings: [...run.warnings, ...run.notes],
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
    joinedFrom: field.joinedFrom ?? [],
    role: field.role,
    complex: field.pair ? { half: field.pair.half, of: field.pair.of } : null,
    ...(main ? numbers(main) : { min: null, max: null, mean: null }),
    componentRanges: overall.components.map(numbers),
    nanCount: overall.components.reduce((n, s) => n + s.nanCount, 0),
  };
}

const numbers = (s: Statistics) =>
  s.count > 0 ? { min: s.min, max: s.max, mean: meanOf(s) } : { min: null, max: null, mean: null };
