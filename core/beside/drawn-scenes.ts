import type { Scene } from '../scene/document.ts';
import {
  differencesOfScales,
  type ScaledPane,
  scalesWithSharedLegend,
  withSharedScales,
} from './shared-scales.ts';

/** The scenes of panes as they are drawn beside each other. */
export interface DrawnScenes {
  /** By the ids of the panes. */
  scenes: ReadonlyMap<string, Scene>;
  /** The panes and scales whose legend stands once below all, each quantity once. */
  legends: readonly { pane: string; scale: string }[];
  /** Where colours cannot be compared; see `differencesOfScales`. */
  notes: readonly string[];
}

/**
 * The scenes of panes with the scales that they share.
 *
 * @param oneLegend whether shared scales have one legend below all, and none in the pictures
 */
export function drawnScenes(panes: readonly ScaledPane[], oneLegend: boolean): DrawnScenes {
  const shared = withSharedScales(panes);
  const said = scalesWithSharedLegend(panes);
  const scenes = new Map<string, Scene>();
  for (const [i, { id }] of panes.entries()) {
    const own = said.ids.get(id)!;
    const scene = shared[i];
    const hides = oneLegend && own.size > 0;
    scenes.set(
      id,
      hides
        ? {
            ...scene,
            scales: scene.scales.map((s) =>
              own.has(s.id) ? { ...s, legend: { ...s.legend, visible: false } } : s,
            ),
          }
        : scene,
    );
  }
  return { scenes, legends: oneLegend ? said.legends : [], notes: differencesOfScales(panes) };
}
