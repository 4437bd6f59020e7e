import { sayList, sayNumber } from '../language/sentence.ts';
import { parseQuantity, quantityName } from '../model/quantity.ts';
import { fieldByKey, type RunDescription } from '../model/run.ts';
import { unitChange } from '../model/units.ts';
import type { Scale, Scene } from '../scene/document.ts';
import { type ScaleEnds, withEnds } from '../scene/scale-ends.ts';
import { unitsOfScale } from '../scene/settle-scale.ts';
import { sameInRuns } from './same-in-runs.ts';

/** A scene beside others, and where its scales begin and end by itself. */
export interface ScaledPane {
  id: string;
  title: string;
  scene: Scene;
  run: RunDescription;
  /** In the units of its own run; see `endsOfScales`. */
  ends: ScaleEnds;
  /** Whether its scales go with those of the others. */
  shares: boolean;
}

/** A scale of a pane: where it begins and ends by itself, in its own unit, and how that is told in the unit of the first. */
interface OneScale {
  pane: ScaledPane;
  scale: Scale;
  low: number;
  high: number;
  factor: number;
  shift: number;
}

/** Scales of several scenes that colour the same quantity. */
interface AlikeScales {
  name: string;
  unit: string | null;
  of: OneScale[];
}

const inUnitOfFirst = ({ low, high, factor, shift }: OneScale): [number, number] => [
  low * factor + shift,
  high * factor + shift,
];

function alikeScales(panes: readonly ScaledPane[]): AlikeScales[] {
  const found: AlikeScales[] = [];
  for (const pane of panes)
    for (const scale of pane.scene.scales) {
      const own = Object.hasOwn(pane.ends, scale.id) ? pane.ends[scale.id] : null;
      if (!own) continue;
      const unit = unitsOfScale(scale, pane.run).stored;
      const one = { pane, scale, low: own[0], high: own[1], factor: 1, shift: 0 };
      const group = found.find(({ of: [first] }) =>
        sameInRuns(first.pane.run, pane.run)(first.scale.quantity, scale.quantity),
      );
      if (!group) {
        const { field: key, component } = parseQuantity(scale.quantity);
        const field = fieldByKey(pane.run, key);
        found.push({ name: field ? quantityName(field, component) : scale.name, unit, of: [one] });
      } else if (unit === group.unit) group.of.push(one);
      else {
        // What is told in units that say nothing of each other is not shared.
        const change = unitChange(unit ?? '', group.unit ?? '');
        if (change) group.of.push({ ...one, ...change });
      }
    }
  return found;
}

/** Those that begin and end together, and where, in the unit of the first; null where fewer than two panes share them. */
function sharedEnds({ of }: AlikeScales): { sharing: OneScale[]; low: number; high: number } | null {
  const sharing = of.filter((one) => one.pane.shares);
  if (new Set(sharing.map((one) => one.pane.id)).size < 2) return null;
  const ends = sharing.map(inUnitOfFirst);
  return {
    sharing,
    low: Math.min(...ends.map(([low]) => low)),
    high: Math.max(...ends.map(([, high]) => high)),
  };
}

/**
 * The scenes of panes with scales that begin and end together, for each quantity that panes which share their scales have in
 * common; in the order of the panes.
 */
export function withSharedScales(panes: readonly ScaledPane[]): Scene[] {
  const ends = new Map(panes.map((p) => [p.id, {} as Record<string, readonly [number, number]>]));
  for (const group of alikeScales(panes)) {
    const shared = sharedEnds(group);
    for (const { pane, scale, factor, shift } of shared?.sharing ?? [])
      ends.get(pane.id)![scale.id] = [(shared!.low - shift) / factor, (shared!.high - shift) / factor];
  }
  return panes.map((p) => withEnds(p.scene, ends.get(p.id)!));
}

/** What of scales tells colours apart beside where they begin and end. */
const coloursOf = ({ map, reversed, spacing, bands, crop, rotate, symmetric, tidy }: Scale): string =>
  JSON.stringify([map, reversed, spacing, bands, crop, rotate, symmetric, tidy]);

/** Numbers that differ by less than this share of their reach are the same to a reader. */
const SAME = 1e-6;

/** In words, of which quantities one colour does not mean one value in all panes; none where comparing colours is safe. */
export function differencesOfScales(panes: readonly ScaledPane[]): string[] {
  return alikeScales(panes).flatMap((group) => {
    const shared = sharedEnds(group);
    const ends = group.of.map((one): [number, number] =>
      shared?.sharing.includes(one) ? [shared.low, shared.high] : inUnitOfFirst(one),
    );
    const reach = Math.max(...ends.map(([, high]) => high)) - Math.min(...ends.map(([low]) => low)) || 1;
    const kinds: { ends: [number, number]; titles: string[] }[] = [];
    for (const [i, one] of group.of.entries()) {
      const known = kinds.find((kind) => kind.ends.every((v, k) => Math.abs(v - ends[i][k]) <= SAME * reach));
      if (known) known.titles.push(one.pane.title);
      else kinds.push({ ends: ends[i], titles: [one.pane.title] });
    }
    const { name, unit } = group;
    const says: string[] = [];
    if (kinds.length > 1) {
      const each = kinds.map(
        (kind) =>
          `${kind.ends.map((v) => sayNumber(v)).join(' to ')}${unit ? ` ${unit}` : ''} in ${sayList(kind.titles)}`,
      );
      says.push(`One colour is not one ${name} in all panes: ${each.join(', ')}.`);
    }
    if (new Set(group.of.map(({ scale }) => coloursOf(scale))).size > 1)
      says.push(`Panes colour ${name} by different maps or bands.`);
    return says;
  });
}

/**
 * Scales that share their ends: one legend says them for all.
 *
 * @returns the ids of such scales by pane, and for each quantity the first pane and scale that have it
 */
export function scalesWithSharedLegend(panes: readonly ScaledPane[]): {
  ids: ReadonlyMap<string, ReadonlySet<string>>;
  legends: { pane: string; scale: string }[];
} {
  const ids = new Map(panes.map((p) => [p.id, new Set<string>()]));
  const legends: { pane: string; scale: string }[] = [];
  for (const group of alikeScales(panes)) {
    const sharing = sharedEnds(group)?.sharing ?? [];
    for (const { pane, scale } of sharing) ids.get(pane.id)!.add(scale.id);
    const first = sharing.find(({ scale }) => scale.legend.visible);
    if (first && first.pane.scene.legends.shown) legends.push({ pane: first.pane.id, scale: first.scale.id });
  }
  return { ids, legends };
}
