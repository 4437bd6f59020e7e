import { cleanName, cleanText, cleanUnit, UniqueNames } from '../../model/clean-text.ts';
import type { FieldHeader } from '../../model/field.ts';
import { ReadError } from '../../model/read-error.ts';
import type { FileFormat, Opened, OpenedFields, OpenedMesh, OpenedRun, OpenedTable } from '../format.ts';

/**
 * What every opened file passes through. A damaged file can lead a reader anywhere: whatever is thrown that is no
 * refusal of its own becomes one, when opening and when reading on. Names, units and other texts are made readable
 * and unique, and have an end.
 */
export async function throughTheDoor(
  format: FileFormat,
  open: () => Opened | Promise<Opened>,
): Promise<Opened> {
  const refuse = (error: unknown): never => {
    throw refusal(format, error);
  };
  const opened = await Promise.resolve().then(open).catch(refuse);
  switch (opened.kind) {
    case 'fields':
      return cleanFields(opened, refuse);
    case 'run':
      return cleanRun(opened, refuse);
    case 'table':
      return cleanTable(opened, refuse);
    default:
      return opened;
  }
}

type Refuse = (error: unknown) => never;

/** A refusal in our words: what the language says of its own arrays and stacks helps nobody. */
function refusal(format: FileFormat, error: unknown): ReadError {
  if (error instanceof ReadError)
    return new ReadError(
      cleanText(error.reason, 400),
      cleanText(error.where, 200) || format.name,
      cleanText(error.remedy, 400),
    );
  const tooLarge = error instanceof RangeError;
  return new ReadError(
    tooLarge
      ? 'the file is damaged: a number in it leads outside of what is there'
      : 'the file is damaged: what stands in it does not fit together',
    format.name,
    'Copy or write it again from the solver.',
  );
}

const safe =
  <A extends unknown[], R>(act: (...args: A) => R, refuse: Refuse) =>
  (...args: A): R => {
    try {
      return act(...args);
    } catch (error) {
      return refuse(error);
    }
  };

function cleanRun(opened: OpenedRun, refuse: Refuse): OpenedRun {
  const names = new UniqueNames();
  const parts = opened.parts.map((part) => ({
    ...part,
    name: part.name === null ? null : names.of(part.name, 'part'),
    at: safe((step: number) => {
      const mesh = part.at(step);
      return mesh && cleanMesh(mesh, refuse);
    }, refuse),
  }));
  return {
    ...opened,
    parts,
    lengthUnit: cleanUnit(opened.lengthUnit),
    timeUnit: cleanUnit(opened.timeUnit),
    title: opened.title === null ? null : cleanName(opened.title),
    facts: Object.fromEntries(Object.entries(opened.facts).map(([k, v]) => [cleanName(k), v])),
    sets: opened.sets.map((s) => ({
      name: cleanName(s.name),
      parts: s.parts.map((p) => names.of(p, 'part')),
    })),
  };
}

function cleanFields(opened: OpenedFields, refuse: Refuse): OpenedFields {
  return {
    ...opened,
    at: safe((step: number) => {
      const state = opened.at(step);
      // Counts may be getters that read: they stay so.
      return Object.create(state, {
        fields: { value: cleanHeaders(state.fields), enumerable: true },
        readField: { value: safe((index: number) => state.readField(index), refuse) },
      }) as typeof state;
    }, refuse),
  };
}

function cleanMesh(mesh: OpenedMesh, refuse: Refuse): OpenedMesh {
  return Object.create(mesh, {
    fields: { value: cleanHeaders(mesh.fields), enumerable: true },
    readMesh: { value: safe(() => mesh.readMesh(), refuse) },
    readField: { value: safe((index: number) => mesh.readField(index), refuse) },
    readGroups: {
      value: safe(() => {
        const names = new UniqueNames();
        return (mesh.readGroups?.() ?? []).map((g) => ({ ...g, name: names.of(g.name, 'group') }));
      }, refuse),
    },
  }) as OpenedMesh;
}

/** More numbers than this at one place are no field. */
const MOST_COMPONENTS = 100_000;

function cleanHeaders(headers: FieldHeader[]): FieldHeader[] {
  const names = { point: new UniqueNames(), cell: new UniqueNames() };
  return headers.map((header) => ({
    name: names[header.location].of(header.name, 'field'),
    location: header.location,
    components: wholeComponents(header),
    // Some units are read only when asked for.
    get unit() {
      return cleanUnit(header.unit);
    },
  }));
}

/** @throws ReadError when it is no number of components that a field can have */
function wholeComponents({ name, components }: FieldHeader): number {
  if (Number.isInteger(components) && components >= 1 && components <= MOST_COMPONENTS) return components;
  throw new ReadError(
    `"${String(components).slice(0, 20)}" is no number of components`,
    `field ${name.slice(0, 60)}`,
    'Write the file again from the solver.',
  );
}

/** Columns keep their order, so that numbers and texts are asked for as before. */
function cleanTable(opened: OpenedTable, refuse: Refuse): OpenedTable {
  const names = new UniqueNames();
  for (const column of opened.columns) {
    column.name = names.of(column.name, 'column');
    column.unit = cleanUnit(column.unit);
  }
  const { numbers, texts, preview, runRows } = opened;
  return Object.assign(opened, {
    numbers: safe(numbers, refuse),
    texts: safe((column: number) => texts(column).map((t) => cleanText(t, LONGEST_ENTRY)), refuse),
    preview: safe(
      (rows: number) => preview(rows).map((r) => r.map((t) => cleanText(t, LONGEST_ENTRY))),
      refuse,
    ),
    ...(runRows ? { runRows: safe(runRows, refuse) } : {}),
  });
}

/** Longest text of a table that is kept. */
const LONGEST_ENTRY = 400;
