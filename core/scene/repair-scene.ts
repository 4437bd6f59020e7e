import type { SchemaIssue } from '../model/schema.ts';
import { unusedName } from '../model/unused-name.ts';
import { chart } from './charts/chart.ts';
import { curve } from './charts/curve.ts';
import { type Layer, migrated, type Scene, sceneSchema } from './document.ts';
import { emptyScene } from './empty-scene.ts';
import { calledInList, isList, keyedLists, type ListName } from './keyed-lists.ts';
import { isKindList, type KindList, kindIn } from './kind-lists.ts';
import { layerLook } from './things/layer-look.ts';
import { partLook } from './things/part-look.ts';
import { scale } from './things/scale.ts';

/** A scene that opens, and what had to be changed for it. */
export interface RepairedScene {
  scene: Scene;
  /** In words, one for each change; empty when nothing had to be. */
  repairs: string[];
}

/** Repairs beyond this many and the document is no scene any more. */
const MOST_REPAIRS = 500;

/** What stands in for entries that do not fit. */
const plainLayer: Layer = {
  id: 'layer',
  name: null,
  parts: null,
  from: null,
  set: null,
  chain: [],
  colour: { kind: 'plain', colour: '#d8d2c8' },
  ...layerLook.plain,
};

const plainScene = emptyScene();

/**
 * Reads a scene document of any known version; entries that do not fit are brought within their bounds, replaced by
 * plain ones or left out, and named.
 *
 * @throws Error when it is no scene at all, or of a newer version
 */
export function repairScene(document: unknown): RepairedScene {
  const current = migrated(document);
  const repairs: string[] = [];
  for (let round = 0; round < MOST_REPAIRS; round++) {
    const result = sceneSchema.safeParse(current);
    if (result.success) {
      for (const list of Object.keys(keyedLists) as ListName[]) {
        const elements = result.data[list] as unknown as Record<string, string>[];
        renameTwins(elements, keyedLists[list], calledInList[list], repairs);
      }
      return { scene: result.data, repairs };
    }
    repairs.push(repair(current, result.error.issues[0]));
  }
  throw new Error('The scene is damaged in too many places. Bring back an earlier state of it.');
}

type Path = PropertyKey[];

const show = (value: unknown): string => (JSON.stringify(value) ?? 'nothing').slice(0, 60);

/** Mends one place that does not fit, and says how. */
function repair(document: Record<string, unknown>, issue: SchemaIssue): string {
  const { path } = issue;
  const where = path.join(' / ');
  const value = at(document, path);
  const bounded = withinBounds(value, issue, document);
  if (bounded !== undefined) {
    put(document, path, bounded);
    return `${where} was ${show(value)} and is now ${show(bounded)}`;
  }
  // The nearest place upward that has a plain value to stand in.
  for (let length = path.length; length > 0; length--) {
    const place = path.slice(0, length);
    const plain = plainValue(place, document);
    if (plain === undefined) {
      const parent = at(document, place.slice(0, -1));
      if (!Array.isArray(parent)) continue;
      parent.splice(place[length - 1] as number, 1);
      return `${place.join(' / ')} did not fit and was left out`;
    }
    if (show(at(document, place)) === show(plain)) continue;
    put(document, place, JSON.parse(JSON.stringify(plain)));
    return `${place.join(' / ')} did not fit and is now ${show(plain)}`;
  }
  throw new Error(`The scene is damaged at "${where}". Bring back an earlier state of it.`);
}

function withinBounds(value: unknown, issue: SchemaIssue, document: Record<string, unknown>): unknown {
  const big = issue.code === 'too_big';
  if (!big && issue.code !== 'too_small') return undefined;
  const bound = Number(big ? issue.maximum : issue.minimum);
  if (typeof value === 'number') {
    const plain = plainValue(issue.path, document);
    return near(value, bound) || plain === undefined ? bound : plain;
  }
  if (big && typeof value === 'string') return value.slice(0, bound);
  if (big && Array.isArray(value)) return value.slice(0, bound);
  return undefined;
}

/** A number just beyond its bound is brought to it; one far away means nothing. */
const near = (value: number, bound: number): boolean =>
  bound === 0 ? Math.abs(value) <= 1 : value / bound >= 0.1 && value / bound <= 10;

/** A plain value for a place; undefined where only leaving out helps. */
function plainValue(path: Path, document: Record<string, unknown>): unknown {
  const [first, , ...rest] = path;
  if (isKindList(String(first)) && path.length > 1) {
    const known = kindIn(first as KindList, at(document, [...path.slice(0, 2), 'kind']));
    return known && path.length > 2 ? at({ ...known.plain, visible: true }, rest) : undefined;
  }
  if (first === 'layers' && path.length > 2) return plainOfLayer(rest);
  // Of a question nothing can stand in but the looks of what it is asked of.
  if (first === 'gauges' && path.length > 2)
    return rest[0] === 'on' && rest.length > 1
      ? plainOfLayer(rest.slice(1))
      : at({ name: null, phase: null }, rest);
  if (first === 'charts' && path.length > 2) {
    const [list, , ...own] = rest;
    if (list !== 'curves' || rest.length === 1) return at({ ...chart.plain, curves: [] }, rest);
    // A curve of nothing is none.
    return own.length > 0 ? at({ ...curve.plain, work: [] }, own) : undefined;
  }
  if (first === 'scales' && path.length > 2) return at(scale.plain, rest);
  // Half a view is none.
  if ((first === 'sets' || first === 'cameras') && path.length > 1) return undefined;
  if (first === 'parts' && path.length > 1)
    return path.length === 2 ? partLook.plain : at(partLook.plain, rest);
  if (path.length === 2 && isList(String(first))) return undefined;
  return at(plainScene, path);
}

const plainOfLayer = (path: Path): unknown =>
  path[0] === 'chain' && path.length > 1 ? undefined : at(plainLayer, path);

function at(of: unknown, path: Path): unknown {
  let value = of;
  for (const key of path) {
    if (typeof value !== 'object' || value === null || !Object.hasOwn(value, key)) return undefined;
    value = (value as Record<PropertyKey, unknown>)[key];
  }
  return value;
}

function put(of: Record<string, unknown>, path: Path, value: unknown): void {
  const parent = at(of, path.slice(0, -1)) as Record<PropertyKey, unknown>;
  parent[path[path.length - 1]] = value;
}

/** Two of the same name cannot be told apart when they are edited. */
function renameTwins(list: Record<string, string>[], key: string, kind: string, repairs: string[]): void {
  const seen = new Set<string>();
  for (const [i, element] of list.entries()) {
    const given = element[key];
    const isTaken = (name: string): boolean => seen.has(name);
    const name = unusedName(given, isTaken, (n) => `${given.slice(0, 90)}-${n}`);
    if (name !== given) repairs.push(`${kind} ${i + 1} had the name of another and is now called ${name}`);
    element[key] = name;
    seen.add(name);
  }
}
