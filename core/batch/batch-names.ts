import { fileName } from '../language/file-name.ts';
import {
  type Completion,
  completionsIn,
  filledWith,
  type TemplateValue,
  troublesIn,
} from '../language/template.ts';
import { unusedName } from '../model/unused-name.ts';

/** One file of a batch, as its name can tell of it. */
export interface NamedItem {
  shot: string;
  run: string;
  parameters: Readonly<Record<string, number | string>>;
  /** Of how many, counted from 1. */
  step: number;
  time: number | null;
  timeUnit: string | null;
  width: number;
  height: number;
  /** Null for that of the shot. */
  look: string | null;
  /** Ending of the file, without the dot. */
  ending: string;
}

/** The names of all files of a batch, in their order: paths below the folder they go into, with their endings. */
export interface BatchNames {
  names: string[];
  /** What of the template is not understood, or does not tell files apart, with what to do about it. */
  troubles: string[];
}

/** A folder for each run, and a file for each shot. */
export const USUAL_NAMES = '{run}/{shot}';

interface NameValue extends Omit<TemplateValue, 'value'> {
  of(item: NamedItem, index: number): number | string | null;
}

const values: readonly NameValue[] = [
  { name: 'shot', says: 'name of the shot', unit: null, of: (i) => i.shot },
  { name: 'run', says: 'name of the run', unit: null, of: (i) => i.run },
  { name: 'step', says: 'number of the step, from 1', unit: null, of: (i) => i.step },
  { name: 'time', says: 'of the step', unit: null, of: (i) => i.time },
  { name: 'look', says: 'name of the look', unit: null, of: (i) => i.look },
  { name: 'width', says: 'in pixels', unit: null, of: (i) => i.width },
  { name: 'height', says: 'in pixels', unit: null, of: (i) => i.height },
  { name: 'format', says: 'ending of the file', unit: null, of: (i) => i.ending },
  { name: 'number', says: 'of the file, from 1', unit: null, of: (_, index) => index + 1 },
];

/** Everything that names of these files can tell; a parameter that is called as something else is told apart. */
function valuesOf(items: readonly NamedItem[]): NameValue[] {
  const keys = new Set(items.flatMap((i) => Object.keys(i.parameters)));
  const parameters = [...keys].map((key): NameValue => {
    const taken = values.some((v) => v.name === key.toLowerCase());
    return {
      name: taken ? `parameter ${key}` : key,
      says: 'parameter of the run',
      unit: null,
      of: (i) => i.parameters[key] ?? null,
    };
  });
  const unit = items.find((i) => i.timeUnit !== null)?.timeUnit ?? null;
  return [...values.map((v) => (v.name === 'time' ? { ...v, unit } : v)), ...parameters];
}

const asWords = (all: readonly NameValue[], item: NamedItem, index: number): TemplateValue[] =>
  all.map(({ of, ...value }) => ({ ...value, value: () => withinFolder(of(item, index)) }));

/** Only the template makes folders: no name of a run or a shot does. */
const withinFolder = (value: number | string | null): number | string | null =>
  typeof value === 'string' ? value.replace(/[/\\]/g, '-') : value;

/**
 * Names for the files of a batch by a text with values in braces (see `filledWith`), `/` for a folder. What no file system
 * takes is left out; two files never have one name.
 */
export function batchNames(template: string, items: readonly NamedItem[]): BatchNames {
  const [first] = items;
  if (!first) return { names: [], troubles: [] };
  const all = valuesOf(items);
  const troubles = troublesIn(template, () => asWords(all, first, 0));
  if (template.trim() === '') troubles.push(`Files need a name. Type one, for example ${USUAL_NAMES}.`);
  const plain = items.map((item, i) => {
    const text = filledWith(template, () => asWords(all, item, i));
    return (
      text
        .split('/')
        .flatMap((part) => fileName(part, '') || [])
        .join('/') || 'picture'
    );
  });
  const taken = new Set<string>();
  const names = plain.map((name, i) => {
    const whole = (n: string): string => `${n}.${items[i].ending}`;
    const own = unusedName(
      name,
      (n) => taken.has(whole(n).toLowerCase()),
      (n) => `${name}-${n}`,
    );
    taken.add(whole(own).toLowerCase());
    return whole(own);
  });
  troubles.push(...twinTroubles(plain, items, all));
  return { names, troubles };
}

/** What is told of files that a template calls alike: how many they are, and what would tell them apart. */
function twinTroubles(
  plain: readonly string[],
  items: readonly NamedItem[],
  all: readonly NameValue[],
): string[] {
  const alike = new Map<string, number[]>();
  for (const [i, name] of plain.entries()) {
    const key = `${name}.${items[i].ending}`.toLowerCase();
    alike.set(key, [...(alike.get(key) ?? []), i]);
  }
  const twins = [...alike.values()].filter((of) => of.length > 1);
  if (twins.length === 0) return [];
  const most = twins.reduce((a, b) => (b.length > a.length ? b : a));
  const apart = all.find(
    ({ name, of }) => name !== 'number' && new Set(most.map((i) => of(items[i], i))).size === most.length,
  );
  const some = all.find(
    ({ name, of }) => name !== 'number' && new Set(most.map((i) => of(items[i], i))).size > 1,
  );
  const name = (apart ?? some)?.name ?? 'number';
  return [
    `${most.length} files would be called “${plain[most[0]]}.${items[most[0]].ending}”: a number is put behind them. {${name}} tells them apart.`,
  ];
}

/** What could stand at the caret of a template. */
export function nameCompletions(
  template: string,
  caret: number,
  items: readonly NamedItem[],
): Completion[] | null {
  const [first] = items;
  return first ? completionsIn(template, caret, () => asWords(valuesOf(items), first, 0)) : null;
}
