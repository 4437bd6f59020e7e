import { lettersOf, likelyName } from '../model/likely-name.ts';
import type { Bounds } from '../model/mesh.ts';
import { partBounds, type RunDescription, type RunField, type RunPart } from '../model/run.ts';
import { needsOfScene } from './apply-scene.ts';
import type { Scene } from './document.ts';

/** Something scenes ask for that another run lacks, and what may be meant by it there. */
export interface Lacking {
  kind: 'field' | 'part';
  /** Key of the field, or name of the part. */
  asked: string;
  /** How it is called. */
  name: string;
  /** All that could take its place. */
  offered: { value: string; name: string }[];
  /** The likeliest of them. */
  likely: string | null;
}

/** What of a run the scenes that were made for it ask for. */
export interface AskedOfRun {
  run: RunDescription;
  fields: RunField[];
  /** Names. */
  parts: Set<string>;
}

/** What scenes ask of the run they were made for. */
export function askedBy(scenes: readonly Scene[], run: RunDescription): AskedOfRun {
  const needs = scenes.map((s) => needsOfScene(s, run));
  const fields = new Set(needs.flatMap((n) => [...n.fields]));
  // What is made from a field, its gradient for example, asks for it in its key.
  const asked = (key: string): boolean => [...fields].some((f) => f === key || f.endsWith(`:${key}`));
  return {
    run,
    fields: run.fields.filter((f) => asked(f.key)),
    parts: new Set(needs.flatMap((n) => [...n.parts])),
  };
}

/** What scenes made for one run ask for that another one lacks. */
export const lackingIn = (scenes: readonly Scene[], old: RunDescription, run: RunDescription): Lacking[] =>
  lackingOf(askedBy(scenes, old), run);

/** What is asked of one run that another one lacks. */
export function lackingOf({ run: old, fields, parts }: AskedOfRun, run: RunDescription): Lacking[] {
  const out: Lacking[] = [];
  for (const before of fields) {
    const { key } = before;
    if (run.fields.some((f) => f.key === key)) continue;
    const alike = run.fields.filter((f) => f.components === before.components);
    out.push({
      kind: 'field',
      asked: key,
      name: before.name,
      offered: alike.map((f) => ({
        value: f.key,
        name: f.location === before.location ? f.name : `${f.name} per ${f.location}`,
      })),
      likely: likelyField(before, alike, old)?.key ?? null,
    });
  }
  for (const name of parts) {
    if (!old.parts.some((p) => p.name === name) || run.parts.some((p) => p.name === name)) continue;
    const left = run.parts.filter((p) => !parts.has(p.name) || !old.parts.some((o) => o.name === p.name));
    out.push({
      kind: 'part',
      asked: name,
      name,
      offered: run.parts.map((p) => ({ value: p.name, name: p.name })),
      likely:
        likelyName(
          name,
          left.map((p) => p.name),
        ) ?? partInItsPlace(name, left, old, run),
    });
  }
  return out;
}

/** Less of what two parts fill together than this is not the same place. */
const SAME_PLACE = 0.6;

/** The part that fills the same place, where both runs lie in one frame and unit. */
function partInItsPlace(
  name: string,
  left: readonly RunPart[],
  old: RunDescription,
  run: RunDescription,
): string | null {
  const before = old.parts.find((p) => p.name === name);
  if (!before || old.lengthUnit !== run.lengthUnit) return null;
  const own = partBounds(before);
  let best: { name: string; share: number } | null = null;
  for (const part of left) {
    const share = sharedPlace(own, partBounds(part));
    if (share > (best?.share ?? SAME_PLACE)) best = { name: part.name, share };
  }
  return best?.name ?? null;
}

/** How much of the box around both lies in both; what is thin in a direction counts by the others. */
function sharedPlace(a: Bounds, b: Bounds): number {
  let share = 1;
  for (const k of [0, 2, 4]) {
    const inBoth = Math.min(a[k + 1], b[k + 1]) - Math.max(a[k], b[k]);
    const around = Math.max(a[k + 1], b[k + 1]) - Math.min(a[k], b[k]);
    if (around > 0) share *= Math.max(0, inBoth) / around;
  }
  return share;
}

/**
 * Of the same name but for its letters; or of those that are new, as what kept its name is not meant by another, one of
 * a like name or one that means the same for the job.
 */
function likelyField(before: RunField, alike: RunField[], old: RunDescription): RunField | null {
  const near = [...alike].sort(
    (a, b) => Number(b.location === before.location) - Number(a.location === before.location),
  );
  const same = near.find((f) => lettersOf(f.name) === lettersOf(before.name));
  if (same) return same;
  const added = near.filter((f) => old.fields.every((o) => o.key !== f.key));
  const name = likelyName(
    before.name,
    added.map((f) => f.name),
  );
  const found = added.find((f) => f.name === name);
  if (found) return found;
  return before.role === 'other' ? null : (added.find((f) => f.role === before.role) ?? null);
}
