import type { Layer, Scale, Scene } from './document.ts';

/** Ids of the scales a layer uses, for its faces and for its edges. */
export const scalesOfLayer = ({ colour, edges }: Pick<Layer, 'colour' | 'edges'>): string[] => [
  ...(colour.kind === 'field' ? [colour.scale] : []),
  ...(edges.by ? [edges.by.scale] : []),
];

/** Scales that are in use by a visible layer, in the order of the scene. */
export function shownScales(scene: Scene): Scale[] {
  const used = new Set(
    scene.layers.flatMap((l) =>
      l.visible && l.opacity > 0
        ? scalesOfLayer(l.edges.shown ? l : { ...l, edges: { ...l.edges, by: null } })
        : [],
    ),
  );
  return scene.scales.filter((s) => used.has(s.id));
}

/** A scene without the scales that no layer uses: they have no meaning. */
export function withoutUnusedScales<S extends Pick<Scene, 'layers' | 'scales'>>(scene: S): S {
  const used = new Set(scene.layers.flatMap(scalesOfLayer));
  return { ...scene, scales: scene.scales.filter((s) => used.has(s.id)) };
}
