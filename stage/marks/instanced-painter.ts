import { Mesh, type RawShaderMaterial } from 'three';
import { blend } from '../blending.ts';
import type { Instances } from './instances.ts';
import type { PartLook } from './look.ts';
import type { Drawn, MarkStyle, PaintedMark } from './painter.ts';
import { VertexValues } from './vertex-values.ts';

interface Materials {
  seen: RawShaderMaterial;
  /** For opaque things of a pass; see `unlit`. */
  bare: RawShaderMaterial;
  /** Null for what casts no shadow. */
  shadow: RawShaderMaterial | null;
}

/** A mark that is drawn in instances. */
export function instancedMark(
  kind: string,
  vertices: number,
  pieces: readonly Instances[],
  { seen, bare, shadow }: Materials,
  look: PartLook,
  {
    onStyle = () => undefined,
    onThin = () => undefined,
  }: { onStyle?(style: MarkStyle): void; onThin?(share: number): void } = {},
): PaintedMark {
  const values = new VertexValues(vertices);
  const drawn: Drawn[] = [];
  const casters: Drawn[] = [];
  for (const piece of pieces) {
    const narrow = (): void => {
      if (values.fill()) for (const p of pieces) p.stale = true;
      piece.fill(values);
    };
    const add = (into: Drawn[], own: RawShaderMaterial, name: string, lit: Partial<Drawn>): void => {
      const object = new Mesh(piece.geometry, own);
      object.frustumCulled = false;
      into.push({ object, kind: name, by: 'whole', count: piece.count, ...lit, narrow });
    };
    add(drawn, seen, kind, { unlit: bare });
    if (shadow) add(casters, shadow, `${kind} shadow`, {});
  }
  const all = { drawn, casters };
  let casting = casters;
  const count = pieces.reduce((sum, p) => sum + p.count, 0);
  return {
    get drawn() {
      return all.drawn;
    },
    get casters() {
      return casting.length === 0 ? casting : all.casters;
    },
    many: { kind, count },
    thin: (share) => {
      // Each piece is taken from all over.
      const some = Math.max(1, Math.round(share * pieces.length));
      all.drawn = drawn.slice(0, some);
      all.casters = casters.slice(0, some);
      onThin(Math.min(1, some / pieces.length));
    },
    setValues: (v) => values.set(v),
    restyle: (style) => {
      blend(seen, look.throughAt(style.layer.opacity));
      casting = style.layer.opacity > 0.6 ? casters : [];
      onStyle(style);
    },
    fade: (opacity) => blend(seen, look.throughAt(opacity)),
    dispose: () => {
      for (const { geometry } of pieces) geometry.dispose();
      for (const made of [seen, bare, shadow]) made?.dispose();
    },
  };
}
