import type { Card } from './card.ts';
import type { ShownPart } from './shown-parts.ts';

/** What a draft may take for things of which some stand for all, in milliseconds; and one that nobody waits for. */
const DRAFT_TIME = { software: 120, card: 15 };
const PATIENT_TIME = { software: 3000, card: 200 };

/**
 * Of very many alike a draft draws only as many as it has time for; and of large surfaces, for which it has none, fewer
 * triangles that stand for them.
 *
 * @param width of the draft; null where all are drawn
 * @param patient whether nobody waits for it
 * @returns whether something was left out
 */
export function thinOut(
  parts: readonly ShownPart[],
  { slices, software }: Pick<Card, 'slices' | 'software'>,
  width: number | null,
  patient: boolean,
): boolean {
  const shown = parts.flatMap((s) => (s.visible ? s.marks : []));
  const marks = shown.filter((m) => m.thin);
  const time = (patient ? PATIENT_TIME : DRAFT_TIME)[software ? 'software' : 'card'];
  const costs = marks.map((m) =>
    width === null ? 0 : m.many!.count / slices.within(m.many!.kind, width, 1),
  );
  const share = width === null ? 1 : Math.min(1, time / costs.reduce((a, b) => a + b, 0));
  for (const mark of marks) mark.thin!(share);
  let isCoarse = false;
  for (const mark of shown) {
    if (!mark.coarser) continue;
    // What it costs goes by all of it.
    mark.coarser(false);
    const [{ kind, count }] = mark.drawn;
    isCoarse = mark.coarser(width !== null && count > slices.within(kind, width, time)) || isCoarse;
  }
  return share < 1 || isCoarse;
}
