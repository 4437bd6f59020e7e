import type { Scale, Scene } from './document.ts';

/** Scales that are in use by a visible layer, in the order of the scene. */
export function shownScales(scene: Scene): Scale[] {
  const used = new Set(
    scene.layers.flatMap((l) =>
      l.visible && l.opacity > 0 && l.colour.kind === 'field' ? [l.colour.scale] : [],
    ),
  );
  return scene.scales.filter((s) => used.has(s.id));
}
