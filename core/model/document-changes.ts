/**
 * One difference between two states of a document, told by where it is: `['camera']`, `['light', 'shadow']`,
 * `['layers', ID, 'opacity']`. `was` and `now` are missing where there was or is nothing.
 */
export interface DocumentChange {
  at: string[];
  was?: unknown;
  now?: unknown;
  /** Of an added element: the one it stands behind; null for the first. */
  after?: string | null;
}

/** How documents of a kind are compared and changed. */
export interface DocumentForm {
  /** What elements of a list are known by, where its elements come, go and change by themselves; else undefined. */
  keyOfList(name: string): string | undefined;
  /** Whether it is a record that is compared entry by entry. All else changes as a whole. */
  isRecord(name: string): boolean;
}

/** Of a change of the order of a list, in place of the key of an element. */
export const ORDER = '*order';

type Element = Record<string, unknown>;
type Document = Record<string, unknown>;

const listOf = (document: Document, name: string): Element[] => (document[name] ?? []) as Element[];

/** Whether two plain values say the same, whatever the order of their entries. */
export function sameValue(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const keys = Object.keys(a);
  if (keys.length !== Object.keys(b).length) return false;
  return keys.every((k) => Object.hasOwn(b, k) && sameValue((a as Document)[k], (b as Document)[k]));
}

/** Everything in which a later state of a document differs from an earlier one. */
export function differences(form: DocumentForm, a: Document, b: Document): DocumentChange[] {
  const out: DocumentChange[] = [];
  for (const name of new Set([...Object.keys(a), ...Object.keys(b)])) {
    if (a[name] === b[name]) continue;
    const listed = form.keyOfList(name);
    if (listed !== undefined) out.push(...listChanges(name, listed, listOf(a, name), listOf(b, name)));
    else if (form.isRecord(name)) out.push(...entryChanges([name], a[name] as Element, b[name] as Element));
    else if (!sameValue(a[name], b[name])) out.push({ at: [name], was: a[name], now: b[name] });
  }
  return out;
}

function entryChanges(at: string[], a: Element, b: Element): DocumentChange[] {
  const keys = [...new Set([...Object.keys(a), ...Object.keys(b)])];
  return keys.flatMap((k) => (sameValue(a[k], b[k]) ? [] : [{ at: [...at, k], was: a[k], now: b[k] }]));
}

function listChanges(name: string, listed: string, a: Element[], b: Element[]): DocumentChange[] {
  const key = (e: Element): string => String(e[listed]);
  const before = new Map(a.map((e) => [key(e), e]));
  const after = new Map(b.map((e) => [key(e), e]));
  const out: DocumentChange[] = [];
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
 * Makes changes to a document that may have become another one meanwhile. A change is made where its place still says
 * what it said before, or says already what is wanted; the others are given back and leave the document alone.
 */
export function withDifferences<T extends Document>(
  form: DocumentForm,
  document: T,
  changes: readonly DocumentChange[],
): { document: T; refused: DocumentChange[] } {
  let current: Document = document;
  const refused: DocumentChange[] = [];
  // Elements come and go before they are put in order.
  const ordered = [...changes].sort((x, y) => Number(x.at[1] === ORDER) - Number(y.at[1] === ORDER));
  for (const change of ordered) {
    const made = withChange(form, current, change);
    if (made) current = made;
    else refused.push(change);
  }
  return { document: current as T, refused };
}

function withChange(form: DocumentForm, document: Document, change: DocumentChange): Document | null {
  const [name, key, entry] = change.at;
  const listed = form.keyOfList(name);
  if (listed !== undefined) {
    const list = listWithChange(listed, listOf(document, name), change);
    return list && { ...document, [name]: list };
  }
  if (form.isRecord(name)) {
    const record = entryWithChange((document[name] ?? {}) as Element, key, change);
    return entry === undefined && record ? { ...document, [name]: record } : null;
  }
  if (key !== undefined) return null;
  return entryWithChange(document, name, change);
}

function entryWithChange(of: Element, key: string, { was, now }: DocumentChange): Element | null {
  if (sameValue(of[key], now)) return of;
  if (!sameValue(of[key], was)) return null;
  const out = { ...of, [key]: now };
  if (now === undefined) delete out[key];
  return out;
}

function listWithChange(listed: string, list: Element[], change: DocumentChange): Element[] | null {
  const keyOf = (e: Element): string => String(e[listed]);
  const [, key, entry] = change.at;
  const { was, now, after } = change;
  const at = list.findIndex((e) => keyOf(e) === key);
  if (key === ORDER) {
    const ids = list.map(keyOf);
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
    return [...list].sort((x, y) => rank.get(keyOf(x))! - rank.get(keyOf(y))!);
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
  const behind = after === null ? -1 : list.findIndex((e) => keyOf(e) === after);
  return list.toSpliced(behind < 0 && after !== null ? list.length : behind + 1, 0, now as Element);
}
