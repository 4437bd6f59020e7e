import { hexToRgb, luminance, type Rgb } from '#core/colour/cielab.ts';
import { contrastOfLuminances } from '#core/colour/contrast.ts';
import { abruptAreas } from '#core/preflight/abrupt-share.ts';
import { scalesOnShow } from '#core/preflight/checked-scene.ts';
import { CoverGrid } from '#core/preflight/cover-grid.ts';
import type { PictureSeen, SeenBox, SeenWords } from '#core/preflight/picture-seen.ts';
import { annotationKind } from '#core/scene/annotations/registry.ts';
import { projector } from '#core/scene/camera.ts';
import type { Scene } from '#core/scene/document.ts';
import type { Frame } from '#engine/scene-source.ts';
import { type Behind, leastContrast } from './ground.ts';
import type { Box } from './lettering.ts';
import { paintWords, type WordsBox } from './paint-words.ts';
import { hasItsMiddleIn, type WrittenWord, WrittenWords } from './written-words.ts';

/**
 * What is known of a picture for its preflight: what is written where, how large and how well it stands out, what lies over the
 * model, and how fine the values are.
 *
 * @param behind what lies behind the words; null where nothing was drawn
 */
export function pictureSeen(
  frame: Frame,
  scene: Scene,
  behind: Behind | null,
  size: { width: number; height: number },
): PictureSeen {
  const { parts, news } = frame;
  const written = new WrittenWords();
  const boxes = paintWords(written.painter, { ...frame, scene, spreads: parts, behind }, size);
  const cover = coverOf(frame, scene, size);
  const empty = scene.layers.filter((l) => l.visible && l.opacity > 0 && news[l.id]?.empty);
  return {
    ...size,
    words: boxes.map((box) => seenWords(box, written.words, { scene, behind, size, cover })),
    empty: empty.map((l) => l.id),
    abrupt: abruptOf(frame, scene),
  };
}

function seenWords(
  { kind, id, anchor, ...box }: WordsBox,
  written: readonly WrittenWord[],
  {
    scene,
    behind,
    size,
    cover,
  }: { scene: Scene; behind: Behind | null; size: { width: number; height: number }; cover: CoverGrid },
): SeenWords {
  const seen = shareOf(box, size);
  return {
    kind,
    id,
    name: nameOf(kind, id, scene),
    box: seen,
    hangs: anchor !== null,
    overModel: cover.shareIn(seen),
    words: written
      .filter((word) => hasItsMiddleIn(word.box, box))
      .map(({ text, size: height, box: own, ink, halo, plate }) => ({
        text,
        height: height / size.height,
        box: shareOf(own, size),
        contrast: contrastOf(ink, halo, plate, behind, own, size),
      })),
  };
}

const shareOf = ({ x, y, width, height }: Box, size: { width: number; height: number }): SeenBox => ({
  x: x / size.width,
  y: y / size.height,
  width: width / size.width,
  height: height / size.height,
});

function nameOf(kind: WordsBox['kind'], id: string, scene: Scene): string {
  if (kind === 'stamp') return 'the time';
  if (kind === 'legend') return `the legend of ${scene.scales.find((s) => s.id === id)?.name ?? 'a scale'}`;
  const found = scene.annotations.find((a) => a.id === id);
  const text = typeof found?.text === 'string' && found.text !== '' ? ` “${found.text.split('\n')[0]}”` : '';
  return found ? `${annotationKind(found.kind).name}${text}` : 'words';
}

const COLOUR = /^rgba?\((\d+), (\d+), (\d+)(?:, ([\d.]+))?\)$/;

/** A colour as a canvas says it, with its opacity. */
function colourOf(said: string): { rgb: Rgb; opacity: number } {
  const [, r, g, b, a] = COLOUR.exec(said) ?? [];
  if (r === undefined) return { rgb: hexToRgb(said), opacity: 1 };
  return {
    rgb: [Number(r) / 255, Number(g) / 255, Number(b) / 255],
    opacity: a === undefined ? 1 : Number(a),
  };
}

/** A line around letters does for them what a plate does. */
function contrastOf(
  ink: string,
  halo: string | null,
  plate: string | null,
  behind: Behind | null,
  box: Box,
  size: { width: number; height: number },
): number | null {
  const words = luminance(colourOf(ink).rgb);
  const around = halo && colourOf(halo);
  if (around && around.opacity > 0.5) return contrastOfLuminances(words, luminance(around.rgb));
  const under = plate === null ? null : colourOf(plate);
  return leastContrast(
    words,
    under && { luminance: luminance(under.rgb), opacity: under.opacity },
    behind,
    box,
    size,
  );
}

/** Where on the picture the model is seen. */
function coverOf(
  { parts, run }: Frame,
  scene: Scene,
  { width, height }: { width: number; height: number },
): CoverGrid {
  const aspect = width / height;
  const grid = new CoverGrid(aspect);
  const shown = new Set(scene.layers.filter((l) => l.visible && l.opacity > 0.2).map((l) => l.id));
  for (const { layer, shape } of parts) {
    if (!shown.has(layer)) continue;
    for (const mark of shape.marks) {
      if (!('positions' in mark)) continue;
      const places = placesOn(mark.positions, run.origin, scene, aspect);
      if (mark.kind === 'surface') grid.faces(places, mark.triangles);
      else for (let i = 0; i < places.length; i += 2) grid.point(places[i], places[i + 1]);
    }
  }
  return grid;
}

function placesOn(
  positions: ArrayLike<number>,
  origin: readonly number[],
  { camera }: Scene,
  aspect: number,
): Float32Array {
  const out = new Float32Array((positions.length / 3) * 2);
  const project = projector(camera, aspect);
  for (let i = 0, k = 0; i < positions.length; i += 3, k += 2) {
    const { x, y, depth } = project([
      positions[i] + origin[0],
      positions[i + 1] + origin[1],
      positions[i + 2] + origin[2],
    ]);
    const isSeen = depth > 0 || camera.projection !== 'perspective';
    out[k] = isSeen ? x : Number.NaN;
    out[k + 1] = isSeen ? y : Number.NaN;
  }
  return out;
}

/** By line that is coloured by a scale: the share of its area with values that change much over one face. */
function abruptOf({ parts, run, step }: Frame, scene: Scene): Record<string, number> {
  const scales = new Map(scalesOnShow(scene, run, step, parts).map((s) => [s.scale.id, s.settled]));
  const out: Record<string, number> = {};
  for (const { id, colour } of scene.layers) {
    const settled = colour.kind === 'field' ? scales.get(colour.scale) : undefined;
    if (!settled || settled.categories) continue;
    const sum = { all: 0, abrupt: 0 };
    for (const { layer, shape, values } of parts)
      if (layer === id)
        shape.marks.forEach((mark, i) => {
          const own = values[i];
          if (mark.kind !== 'surface' || !own) return;
          const { all, abrupt } = abruptAreas(mark.positions, mark.triangles, own, (v) =>
            settled.fraction(v),
          );
          sum.all += all;
          sum.abrupt += abrupt;
        });
    if (sum.all > 0) out[id] = sum.abrupt / sum.all;
  }
  return out;
}
