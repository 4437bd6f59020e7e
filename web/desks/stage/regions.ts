import type { RunDescription } from '#core/model/run.ts';
import type { SetRule } from '#core/model/set-rule.ts';
import type { Layer } from '#core/scene/document.ts';
import { ruleOfSet } from '#core/scene/layer-chain.ts';
import { ArraySource, loadFromServer } from '#engine/array-source.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { edit, sceneNow, useDesk } from './desk-store.ts';

const arrays = new ArraySource(loadFromServer(''), 64 * 2 ** 20);

/** Names of the part sets of the files that hold a cell and not all of its part. */
export async function regionsAt(run: RunDescription, part: string, cell: number): Promise<string[]> {
  const found = run.sets.map(async ({ name, parts }) => {
    const cells = parts.find((p) => p.part === part)?.cells;
    return cells && (await arrays.get(cells)).includes(cell) ? name : null;
  });
  return (await Promise.all(found)).filter((name) => name !== null);
}

/** Whether the files name regions of a part at all. */
export const hasRegions = (run: RunDescription, part: string): boolean =>
  run.sets.some((s) => s.parts.some((p) => p.part === part && p.cells !== null));

/** Of a line, shows all but a region; of what it shows already only a part set, that without the region. */
export function hideRegion(layer: Layer, region: string): void {
  const scene = sceneNow();
  const { run } = useDesk.getState();
  const group: SetRule = { kind: 'group', name: region };
  const shown = layer.set === null ? null : ruleOfSet(layer.set, scene, run);
  const rule: SetRule = shown
    ? { kind: 'difference', of: [shown, group] }
    : { kind: 'complement', of: [group] };
  const name = layer.set === null ? `all but ${region}` : `${layer.set}, without ${region}`;
  const key = freshId('hide-region');
  edit({ type: 'set.save', set: { name: name.slice(0, 100), rule } }, key);
  edit({ type: 'layer.change', id: layer.id, change: { set: name.slice(0, 100) } }, key);
}

/** Of a line, shows a region alone. */
export const showRegionAlone = (layer: Layer, region: string): void =>
  edit({ type: 'layer.change', id: layer.id, change: { set: region } });
