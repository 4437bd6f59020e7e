import type { Scene } from './document.ts';
import { isList, keyedLists, type ListName } from './keyed-lists.ts';
import { isKindList, kindIn, kindLists, ofKinds } from './kind-lists.ts';
import { isThing, sceneThing } from './things/registry.ts';

/**
 * One difference between two states of a scene, told by where it is: `['camera']`, `['light', 'shadow']`,
 * `['layers', ID, 'opacity']`. `was` and `now` are missing where there was or is nothing.
 */
export interface SceneChange {
  at: string[];
  was?: unknown;
  now?: unknown;
  /** Of an added element: the one it stands behind; null for the first. */
  after?: string | null;
}

/** Whether a place of the document is a record that is compared entry by entry. A lens moves as a whole. */
const isRecord = (name: string): boolean => name === 'parts' || (isThing(name) && !sceneThing(name).blend);
const ORDER = '*order';

type Element = Record<string, unknown>;
type Document = Record<string, unknown>;

const keyOf = (name: ListName, element: Element): string => String(element[keyedLists[name]]);
const listOf = (scene: Document, name: string): Element[] => (scene[name] ?? []) as Element[];

/** Whether two plain values say the same, whatever the order of their entries. */
export function sameValue(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const keys = Object.keys(a);
  if (keys.length !== Object.keys(b).length) return false;
  return keys.every((k) => Object.hasOwn(b, k) && sameValue((a as Document)[k], (b as Document)[k]));
}

/** Everything in which a later state of a scene differs from an earlier one. */
export function changesBetween(before: Scene, after: Scene): SceneChange[] {
  const out: SceneChange[] = [];
  const [a, b] = [before as unknown as Document, after as unknown as Document];
  for (const name of new Set([...Object.keys(a), ...Object.keys(b)])) {
    if (a[name] === b[name]) continue;
    if (isList(name)) out.push(...listChanges(name, listOf(a, name), listOf(b, name)));
    else if (isRecord(name)) out.push(...entryChanges([name], a[name] as Element, b[name] as Element));
    else if (!sameValue(a[name], b[name])) out.push({ at: [name], was: a[name], now: b[name] });
  }
  return out;
}

function entryChanges(at: string[], a: Element, b: Element): SceneChange[] {
  const keys = [...new Set([...Object.keys(a), ...Object.keys(b)])];
  return keys.flatMap((k) => (sameValue(a[k], b[k]) ? [] : [{ at: [...at, k], was: a[k], now: b[k] }]));
}

function listChanges(name: ListName, a: Element[], b: Element[]): SceneChange[] {
  const key = (e: Element): string => keyOf(name, e);
  const before = new Map(a.map((e) => [key(e), e]));
  const after = new Map(b.map((e) => [key(e), e]));
  const out: SceneChange[] = [];
  for (const [id, element] of before)
    if (!after.has(id)) out.push({ at: [name, id], was: element });
    else out.push(...entryChanges([name, id], element, after.get(id)!));
  for (const [i, element] of b.entries())
    if (!before.has(key(element)))
      out.push({ at: [name, key(element)], now: element, after: i > 0 ? key(b[i - 1]) : null });
  const kept = (list: Element[], other: Map<string, Element>): string[] =>
    list.map(key).filter((id) => other.has(id));
  const [was, now] = [kept(a, after), kept(b, before)];
  if (!sameValue(was, now)) out.push({ at: [name, ORDER], was, now: b.map(key) });
  return out;
}

/**
 * Makes changes to a scene that may have become another one meanwhile. A change is made where its place still says
 * what it said before, or says already what is wanted; the others are given back and leave the scene alone.
 */
export function withChanges(
  scene: Scene,
  changes: readonly SceneChange[],
): { scene: Scene; refused: SceneChange[] } {
  let current = scene as unknown as Document;
  const refused: SceneChange[] = [];
  // Elements come and go before they are put in order.
  const ordered = [...changes].sort((x, y) => Number(x.at[1] === ORDER) - Number(y.at[1] === ORDER));
  for (const change of ordered) {
    const made = withChange(current, change);
    if (made) current = made;
    else refused.push(change);
  }
  return { scene: current as unknown as Scene, refused };
}

function withChange(scene: Document, change: SceneChange): Document | null {
  const [name, key, entry] = change.at;
  if (isList(name)) {
    const list = listWithChange(name, listOf(scene, name), change);
    return list && { ...scene, [name]: list };
  }
  if (isRecord(name)) {
    const record = entryWithChange((scene[name] ?? {}) as Element, key, change);
    return entry === undefined && record ? { ...scene, [name]: record } : null;
  }
  if (key !== undefined) return null;
  return entryWithChange(scene, name, change);
}

function entryWithChange(of: Element, key: string, { was, now }: SceneChange): Element | null {
  if (sameValue(of[key], now)) return of;
  if (!sameValue(of[key], was)) return null;
  const out = { ...of, [key]: now };
  if (now === undefined) delete out[key];
  return out;
}

function listWithChange(name: ListName, list: Element[], change: SceneChange): Element[] | null {
  const [, key, entry] = change.at;
  const { was, now, after } = change;
  const at = list.findIndex((e) => keyOf(name, e) === key);
  if (key === ORDER) {
    const ids = list.map((e) => keyOf(name, e));
    const known = new Set(was as string[]);
    const place = new Map((now as string[]).map((id, i) => [id, i]));
    if (
      sameValue(
        ids.filter((id) => place.has(id)),
        (now as string[]).filter((id) => ids.includes(id)),
      )
    )
      return list;
    if (
      !sameValue(
        ids.filter((id) => known.has(id)),
        (was as string[]).filter((id) => ids.includes(id)),
      )
    )
      return null;
    // What came from elsewhere stays behind what it stood behind.
    const rank = new Map<string, number>();
    let last = -1;
    for (const id of ids) rank.set(id, (last = place.get(id) ?? last));
    return [...list].sort((x, y) => rank.get(keyOf(name, x))! - rank.get(keyOf(name, y))!);
  }
  if (entry !== undefined) {
    if (at < 0) return null;
    const element = entryWithChange(list[at], entry, change);
    return element && list.with(at, element);
  }
  if (now === undefined) {
    if (at < 0) return list;
    return sameValue(list[at], was) ? list.toSpliced(at, 1) : null;
  }
  if (at >= 0) return sameValue(list[at], now) ? list : null;
  const behind = after === null ? -1 : list.findIndex((e) => keyOf(name, e) === after);
  return list.toSpliced(behind < 0 && after !== null ? list.length : behind + 1, 0, now as Element);
}

const places: Record<string, string> = {
  name: 'the name of the scene',
  parts: 'the look of parts',
  step: 'the step on show',
  onward: 'the time on show',
};

/** Where a change is, in words. */
export function sayPlace({ at: [name, key] }: SceneChange, scene: Scene): string {
  if (name === 'layers') {
    if (key === ORDER) return 'the order of the lines';
    const index = scene.layers.findIndex((l) => l.id === key);
    return index < 0 ? 'a line that is gone' : `line ${index + 1}`;
  }
  if (name === 'scales')
    return `the colour scale ${scene.scales.find((s) => s.id === key)?.name ?? ''}`.trim();
  if (name === 'cameras') return `the camera “${key}”`;
  if (name === 'sets') return `the part set ${key}`;
  if (isKindList(name)) {
    const found = ofKinds(scene, name).find((one) => one.id === key);
    return (found && kindIn(name, found.kind)?.name) ?? kindLists[name].gone;
  }
  if (name === 'gauges') {
    const found = scene.gauges.find((g) => g.id === key);
    return found?.name ? `the gauge “${found.name}”` : 'a gauge';
  }
  if (name === 'charts') return 'a chart';
  if (name === 'lanes') return 'what moves in the film';
  if (name === 'markers') return 'a marker of the film';
  return isThing(name) ? sceneThing(name).name : (places[name] ?? name);
}
