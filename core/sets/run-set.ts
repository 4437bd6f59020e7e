import { type BatchSettings, batchSettingsSchema, usualBatch } from '../batch/batch-settings.ts';
import { boundedNumber } from '../model/bounded-number.ts';
import type { DocumentForm } from '../model/document-changes.ts';
import type { MeasuredNumber } from '../model/run.ts';
import { z } from '../model/schema.ts';
import { columnOfMeasure, type MeasuredOutput, measuredOutputSchema, numberAt } from './measured-outputs.ts';
import { namePattern } from './name-pattern.ts';
import { type RunTable, runTable } from './run-table.ts';
import { type SetShot, setShotSchema, setValue, shownParts, usualShown } from './set-view.ts';

const text = z.string().max(500);

const watchSchema = z.object({
  folder: z.string().max(1000),
  /** Seconds without a change after which files are whole. */
  rest: boundedNumber().min(0).max(86_400),
  /** Name of a file that says so instead; see `WholeWhen`. */
  mark: z.string().min(1).max(200).nullable(),
  on: z.boolean(),
});

/** Runs that are looked at together, and what of their table was chosen by hand. */
export const runSetSchema = z.object({
  name: z.string().min(1).max(200),
  /** Ids of the runs, in the order of the set. */
  runs: z.array(z.string().min(1).max(200)).max(20_000),
  /** Reads parameters out of the names of the runs; see `namePattern`. Empty for none. */
  pattern: text,
  /** What was typed, by run and column: it goes before what the files say. */
  typed: z.record(z.string(), z.record(z.string(), setValue)),
  /** What was corrected of columns, by their keys. */
  columns: z.record(
    z.string(),
    z.object({
      role: z.enum(['input', 'output', 'label']).optional(),
      unit: text.nullable().optional(),
      name: z.string().min(1).max(200).optional(),
    }),
  ),
  /** Outputs that are measured on each run, beside those that its files say. */
  measures: z.array(measuredOutputSchema).max(100),
  ...shownParts,
  /** Runs that are marked everywhere, by their ids. */
  marked: z.array(text),
  /** States that were kept of how it is looked at, in their order. */
  shots: z.array(setShotSchema).max(500),
  /** The pictures that are made of its runs. */
  batch: batchSettingsSchema,
  /** A folder of the server whose runs come into the set by themselves, with their pictures. */
  watch: watchSchema.nullable(),
  /** What is meant in runs that lack it by what shots ask for: keys of fields, names of parts. */
  rules: z.object({ fields: z.record(z.string(), text), parts: z.record(z.string(), text) }),
});

export type RunSet = z.infer<typeof runSetSchema>;

export const emptyRunSet = (name: string): RunSet => ({
  name,
  runs: [],
  pattern: '',
  typed: {},
  columns: {},
  measures: [],
  ...usualShown,
  marked: [],
  shots: [],
  batch: usualBatch,
  watch: null,
  rules: { fields: {}, parts: {} },
});

/** How two that change a set at once are brought together; see `withDifferences`. */
export const runSetForm: DocumentForm = {
  keyOfList: (name) => (name === 'measures' || name === 'shots' ? 'id' : undefined),
  isRecord: (name) =>
    ['typed', 'columns', 'view', 'matrix', 'response', 'sheet', 'batch', 'rules'].includes(name),
};

/** A run as a set knows it. */
export interface RunOfSet {
  id: string;
  name: string;
  parameters: Readonly<Record<string, number | string>>;
  /** What was measured of it, by the sentences that ask for it. */
  numbers?: Readonly<Record<string, MeasuredNumber>>;
}

/**
 * The table of a set: what the files of its runs say of them, what their names say, and what was typed; the later goes
 * before the earlier.
 *
 * @param known the runs there are; those of the set that are gone are told and left out
 */
export function tableOfSet(set: RunSet, known: readonly RunOfSet[]): RunTable {
  const byId = new Map(known.map((r) => [r.id, r]));
  const there = set.runs.flatMap((id) => byId.get(id) ?? []);
  const findings: string[] = [];
  const gone = set.runs.length - there.length;
  if (gone > 0) findings.push(`${gone} of ${set.runs.length} runs of this set are no longer there.`);
  const asked = set.pattern === '' ? null : namePattern(set.pattern);
  if (typeof asked === 'string') findings.push(asked);
  const pattern = typeof asked === 'string' ? null : asked;
  const rows = there.map((run) => {
    const said = pattern?.read(run.name);
    if (said === null) findings.push(`The name of ${run.name} is not made as “${set.pattern}”.`);
    const ofName = pattern && said ? pairs(pattern.parameters, said) : {};
    const typed = Object.entries(set.typed[run.id] ?? {}).flatMap(([key, v]) =>
      v === null ? [] : [[key, v]],
    );
    const parameters = { ...run.parameters, ...ofName, ...measuredOf(run, set.measures, findings) };
    return { ...run, parameters: { ...parameters, ...Object.fromEntries(typed) } };
  });
  const wishes = { ...set.columns };
  for (const measure of set.measures) {
    const key = columnOfMeasure(measure);
    const unit = there.map((run) => run.numbers?.[measure.sentence]?.unit).find((u) => u != null) ?? null;
    wishes[key] = { role: 'output', name: nameOfMeasure(measure, there), unit, ...set.columns[key] };
  }
  const table = runTable(rows, wishes, new Set(pattern?.parameters));
  return { ...table, findings: [...findings, ...table.findings] };
}

/** Numbers that were measured of a run, by their columns; why there is none is told. */
function measuredOf(
  { name, numbers = {} }: RunOfSet,
  measures: readonly MeasuredOutput[],
  findings: string[],
): Record<string, number> {
  const found: Record<string, number> = {};
  for (const measure of measures) {
    const number = Object.hasOwn(numbers, measure.sentence) ? numbers[measure.sentence] : null;
    if (number?.trouble) findings.push(`${name}, ${measure.sentence}: ${number.trouble}`);
    const value = number && numberAt(number, measure.at);
    if (value !== null) found[columnOfMeasure(measure)] = value;
  }
  return found;
}

/** Which of the steps is meant is said where there are several. */
const nameOfMeasure = ({ sentence, at }: MeasuredOutput, runs: readonly RunOfSet[]): string =>
  runs.some((run) => (run.numbers?.[sentence]?.perStep.length ?? 0) > 1) ? `${sentence}, ${at}` : sentence;

const pairs = (names: readonly string[], values: readonly string[]): Record<string, string> =>
  Object.fromEntries(names.map((name, i) => [name, values[i]]));

/** Edits of a set of runs. */
export type RunSetEdit =
  | { type: 'set.rename'; name: string }
  | { type: 'set.runs.add'; runs: readonly string[] }
  | { type: 'set.runs.remove'; runs: readonly string[] }
  | { type: 'set.pattern'; pattern: string }
  /** Null lets the files speak again. */
  | { type: 'set.type'; run: string; key: string; value: number | string | null }
  | { type: 'set.column'; key: string; change: RunSet['columns'][string] }
  | { type: 'set.measure'; measure: MeasuredOutput }
  | { type: 'set.measure.remove'; id: string }
  | { type: 'set.view'; change: Partial<RunSet['view']> }
  | { type: 'set.mark'; runs: readonly string[]; on: boolean }
  | { type: 'set.matrix'; change: Partial<RunSet['matrix']> }
  | { type: 'set.response'; change: Partial<RunSet['response']> }
  | { type: 'set.sheet'; change: Partial<RunSet['sheet']> }
  /** In place of the one with its id, or behind all others. */
  | { type: 'set.shot.keep'; shot: SetShot }
  | {
      type: 'set.shot.change';
      id: string;
      change: Partial<Pick<SetShot, 'name' | 'folder' | 'tags' | 'notes'>>;
    }
  | { type: 'set.shot.remove'; id: string }
  /** Ids of all, in their new order. */
  | { type: 'set.shot.order'; ids: readonly string[] }
  | { type: 'set.shot.open'; id: string }
  | { type: 'set.batch'; change: Partial<BatchSettings> }
  | { type: 'set.watch'; watch: RunSet['watch'] }
  /** Null lets it be lacking. */
  | { type: 'set.rule'; of: 'fields' | 'parts'; asked: string; meant: string | null };

export const runSetEditsSaid: Record<RunSetEdit['type'], string> = {
  'set.rename': 'rename the set',
  'set.runs.add': 'add runs',
  'set.runs.remove': 'take runs away',
  'set.pattern': 'read names',
  'set.type': 'type a value',
  'set.column': 'change a column',
  'set.measure': 'measure an output',
  'set.measure.remove': 'measure it no more',
  'set.view': 'change the rows shown',
  'set.mark': 'mark runs',
  'set.matrix': 'lay the runs out',
  'set.response': 'change the chart',
  'set.sheet': 'change the contact sheet',
  'set.shot.keep': 'keep a shot',
  'set.shot.change': 'change a shot',
  'set.shot.remove': 'delete a shot',
  'set.shot.order': 'put shots in order',
  'set.shot.open': 'open a shot',
  'set.batch': 'change the pictures to make',
  'set.watch': 'watch a folder',
  'set.rule': 'say what is meant',
};

export function withRunSetEdit(set: RunSet, edit: RunSetEdit): RunSet {
  switch (edit.type) {
    case 'set.rename':
      return { ...set, name: edit.name };
    case 'set.runs.add':
      return { ...set, runs: [...new Set([...set.runs, ...edit.runs])] };
    case 'set.runs.remove':
      return withoutRuns(set, new Set(edit.runs));
    case 'set.pattern':
      return { ...set, pattern: edit.pattern };
    case 'set.type': {
      const { run, key, value } = edit;
      const { [key]: _, ...others } = set.typed[run] ?? {};
      const row = value === null ? others : { ...others, [key]: value };
      return { ...set, typed: { ...set.typed, [run]: row } };
    }
    case 'set.column':
      return {
        ...set,
        columns: { ...set.columns, [edit.key]: { ...set.columns[edit.key], ...edit.change } },
      };
    case 'set.measure':
      return { ...set, measures: withElement(set.measures, edit.measure) };
    case 'set.measure.remove':
      return { ...set, measures: set.measures.filter((m) => m.id !== edit.id) };
    case 'set.view':
      return { ...set, view: { ...set.view, ...edit.change } };
    case 'set.mark': {
      const others = set.marked.filter((id) => !edit.runs.includes(id));
      return { ...set, marked: edit.on ? [...others, ...edit.runs] : others };
    }
    case 'set.matrix':
      return { ...set, matrix: { ...set.matrix, ...edit.change } };
    case 'set.response':
      return { ...set, response: { ...set.response, ...edit.change } };
    case 'set.sheet':
      return { ...set, sheet: { ...set.sheet, ...edit.change } };
    case 'set.shot.keep':
      return { ...set, shots: withElement(set.shots, edit.shot) };
    case 'set.shot.change':
      return { ...set, shots: set.shots.map((s) => (s.id === edit.id ? { ...s, ...edit.change } : s)) };
    case 'set.shot.remove':
      return { ...set, shots: set.shots.filter((s) => s.id !== edit.id) };
    case 'set.shot.order': {
      const place = new Map(edit.ids.map((id, i) => [id, i]));
      const placeOf = ({ id }: SetShot): number => place.get(id) ?? edit.ids.length;
      return { ...set, shots: set.shots.toSorted((a, b) => placeOf(a) - placeOf(b)) };
    }
    case 'set.shot.open':
      return { ...set, ...set.shots.find((s) => s.id === edit.id)?.shown };
    case 'set.batch':
      return { ...set, batch: { ...set.batch, ...edit.change } };
    case 'set.watch':
      return { ...set, watch: edit.watch };
    case 'set.rule': {
      const { [edit.asked]: _, ...others } = set.rules[edit.of];
      const names = edit.meant === null ? others : { ...others, [edit.asked]: edit.meant };
      return { ...set, rules: { ...set.rules, [edit.of]: names } };
    }
  }
}

/** One in place of that with its id, or behind all others. */
const withElement = <T extends { id: string }>(all: readonly T[], one: T): T[] =>
  all.some((e) => e.id === one.id) ? all.map((e) => (e.id === one.id ? one : e)) : [...all, one];

/** What is known of runs by hand goes with them. */
function withoutRuns(set: RunSet, away: ReadonlySet<string>): RunSet {
  const stays = (id: string): boolean => !away.has(id);
  return {
    ...set,
    runs: set.runs.filter(stays),
    typed: Object.fromEntries(Object.entries(set.typed).filter(([id]) => stays(id))),
    marked: set.marked.filter(stays),
    view: { ...set.view, hidden: set.view.hidden.filter(stays) },
  };
}
