import { Matrix4 } from 'three';
import type { Taken } from './marks/label-layout.ts';
import type { PaintedMark } from './marks/painter.ts';
import { type PictureView, pictureCamera } from './picture-camera.ts';
import type { ShownPart } from './shown-parts.ts';

/** Labels stand where the picture has room for them; no pass moves them. */
export class ArrangedLabels {
  /** Those that have their places, and in which view. */
  private arranged: { view: string; labels: PaintedMark[] } = { view: '', labels: [] };

  /**
   * @param whole the whole of the picture
   * @param lineWidth of a thin line in it, in its pixels
   */
  arrange(parts: readonly ShownPart[], whole: PictureView, lineWidth: number): void {
    const marks = parts.flatMap((s) => (s.visible && !s.look.isAway ? s.marks : []));
    const labels = marks.filter((m) => m.arrange);
    if (labels.length === 0) return;
    const view = JSON.stringify([whole.scene.camera, whole.size, whole.around]);
    const same = view === this.arranged.view && labels.every((m, i) => m === this.arranged.labels[i]);
    if (same && labels.length === this.arranged.labels.length) return;
    this.arranged = { view, labels };
    const camera = pictureCamera(whole);
    const matrix = new Matrix4().multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse);
    const taken: Taken = [];
    for (const mark of labels) mark.arrange!({ matrix, ...whole.size, lineWidth }, taken);
  }
}
