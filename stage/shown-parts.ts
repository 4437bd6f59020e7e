import type { CompiledScale } from '#core/colour/compiled-scale.ts';
import { type FinishValues, seenThrough } from '#core/light/finish.ts';
import { valuesOf } from '#core/light/own-finish.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { Layer, Scale, Scene } from '#core/scene/document.ts';
import { settleScale } from '#core/scene/settle-scale.ts';
import { type ShownSpread, spreadOfScale } from '#core/scene/spread-of-scale.ts';
import { ownColour } from '#core/scene/things/part-look.ts';
import type { WipeSide } from '#core/scene/things/wipe.ts';
import type { FramePart } from '#engine/scene-source.ts';
import type { FinishTable } from './finish-table.ts';
import { PartLook } from './marks/look.ts';
import type { Uniforms } from './marks/material.ts';
import type { PaintedMark } from './marks/painter.ts';
import { paintMark } from './marks/registry.ts';

/** One part of one layer on the stage. */
export interface ShownPart {
  key: string;
  layer: string;
  part: string;
  frame: FramePart;
  look: PartLook;
  marks: PaintedMark[];
  /** What it is coloured by, where that is values. */
  scale: CompiledScale | null;
  visible: boolean;
  /** On which side of the wipe it is shown. */
  side: WipeSide;
  opacity: number;
}

const idOf = ({ layer, part }: Pick<FramePart, 'layer' | 'part'>): string => `${layer}|${part}`;

/** What is on the stage, part by part: shapes that stay are kept, whatever else of a frame changes. */
export class ShownParts {
  /** In the order in which they are drawn: that of the scene. */
  list: ShownPart[] = [];

  /** @param shared light and camera of the stage */
  constructor(
    private readonly shared: Uniforms,
    private readonly finishes: FinishTable,
  ) {}

  /** Takes over shapes and values. */
  take(parts: readonly FramePart[]): void {
    const before = new Map(this.list.map((s) => [idOf(s.frame), s]));
    this.list = parts.map((part, number) => {
      const known = before.get(idOf(part));
      if (known?.key === part.key) before.delete(idOf(part));
      const shown = known?.key === part.key ? { ...known, frame: part } : this.shownPart(part);
      shown.look.setPicture(part.picture, isLaidOnBody(part));
      shown.look.number = number;
      for (const [i, mark] of shown.marks.entries())
        mark.setValues(part.values[i] ?? null, part.edgeValues[i] ?? null);
      return shown;
    });
    for (const gone of before.values()) drop(gone);
  }

  private shownPart(frame: FramePart): ShownPart {
    const look = new PartLook();
    look.setPicture(frame.picture, isLaidOnBody(frame));
    const marks = frame.shape.marks.map((mark) => paintMark(mark, look, this.shared));
    return {
      key: frame.key,
      layer: frame.layer,
      part: frame.part,
      frame,
      look,
      marks,
      scale: null,
      visible: true,
      side: 'both',
      opacity: 1,
    };
  }

  /** Colours, opacity and lines as a scene has them. */
  restyle(scene: Scene, run: RunDescription, step: number, spreads: readonly ShownSpread[]): void {
    // Once for each scale, however many parts use it.
    const known = new Map<string, CompiledScale>();
    const settled = (scale: Scale | undefined): CompiledScale | null => {
      if (!scale) return null;
      const found =
        known.get(scale.id) ?? settleScale(scale, run, step, spreadOfScale(scale, scene, spreads));
      known.set(scale.id, found);
      return found;
    };
    this.finishes.startAnew();
    for (const shown of this.list) {
      const order = scene.layers.findIndex((l) => l.id === shown.layer);
      const found = scene.layers[order];
      if (!found) continue;
      const part = scene.parts[shown.part];
      const finish = valuesOf(part?.finish ?? found.finish);
      const own = ownColour(part, found);
      const coloured = own === null && found.colour.kind === 'field';
      const layer = seenOf(found, shown.part, scene, coloured ? null : finish);
      const { colour } = layer;
      const scale = colour.kind === 'field' ? scene.scales.find((s) => s.id === colour.scale) : undefined;
      // A colour that was chosen for a part counts more than that of its finish.
      const plain = own ?? (coloured ? null : (finish?.colour ?? null));
      const row = this.finishes.rowOf(finish);
      const byScale = settled(scale);
      shown.scale = coloured ? byScale : null;
      shown.look.update(layer, byScale, scale?.lines ?? null, plain, row, order);
      shown.visible = layer.visible && layer.opacity > 0;
      shown.side = layer.wipe;
      shown.opacity = layer.opacity;
      const edgeScale = settled(scene.scales.find((s) => s.id === layer.edges.by?.scale));
      const edges = part?.edges ?? layer.edges.shown;
      for (const mark of shown.marks) mark.restyle({ layer, edges, edgeScale });
    }
  }

  dispose(): void {
    for (const shown of this.list) drop(shown);
  }
}

/** Whether its picture lies on a body, in the light, instead of on a plane. */
const isLaidOnBody = ({ shape }: FramePart): boolean =>
  shape.marks.some((mark) => mark.kind === 'surface' && mark.places !== undefined);

/** A layer as one of its parts shows it: that may be more transparent than the others, or of something clear. */
const seenOf = (layer: Layer, part: string, scene: Scene, finish: FinishValues | null): Layer => ({
  ...layer,
  opacity: layer.opacity * (scene.parts[part]?.opacity ?? 1) * (finish ? 1 - seenThrough(finish) : 1),
});

function drop({ marks, look }: ShownPart): void {
  for (const mark of marks) mark.dispose();
  look.dispose();
}
