import type { RawShaderMaterial } from 'three';
import { blendInLayers } from '../blending.ts';
import type { Copies } from './copies.ts';
import type { PartLook } from './look.ts';
import { useFinish } from './material.ts';
import type { MarkStyle, PaintedMark } from './painter.ts';
import { standingForAll } from './standing-for-all.ts';

interface Materials {
  seen: RawShaderMaterial;
  /** For opaque things of a pass; see `unlit`. */
  bare: RawShaderMaterial;
  /** Null for what casts no shadow. */
  shadow: RawShaderMaterial | null;
}

/** A mark of many things alike, of which some stand for all in drafts. */
export function copiedMark(
  kind: string,
  copies: Copies,
  { seen, bare, shadow }: Materials,
  look: PartLook,
  {
    onStyle = () => undefined,
    onThin = () => undefined,
  }: { onStyle?(style: MarkStyle): void; onThin?(share: number): void } = {},
): PaintedMark {
  const drawn = [copies.drawn(seen, kind, { unlit: bare })];
  const shadows = shadow ? [copies.drawn(shadow, `${kind} shadow`)] : [];
  let casters = shadows;
  return {
    drawn,
    get casters() {
      return casters;
    },
    many: { kind, count: copies.count },
    thin: (share) => {
      const some = standingForAll('body', copies.count, share);
      for (const one of [...drawn, ...shadows]) one.count = some;
      onThin(some / copies.count);
    },
    setValues: (v) => copies.values.set(v),
    restyle: (style) => {
      blendInLayers(seen, bare, look.throughAt(style.layer.opacity));
      useFinish(seen, look.isFinished);
      casters = style.layer.opacity > 0.6 ? shadows : [];
      onStyle(style);
    },
    fade: (opacity) => blendInLayers(seen, bare, look.throughAt(opacity)),
    dispose: () => {
      copies.dispose();
      for (const made of [seen, bare, shadow]) made?.dispose();
    },
  };
}
