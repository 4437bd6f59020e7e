import { ownName } from '../fields/quantity-sources.ts';
import { outerFaces } from '../fields/surfaces/outer-faces.ts';
import { phrasesOf } from '../language/phrase.ts';
import { boundedNumber } from '../model/bounded-number.ts';
import type { MeshField } from '../model/field.ts';
import { polygonNormals } from '../model/mark-geometry.ts';
import { boundsDiagonal, boundsOf, type Mesh } from '../model/mesh.ts';
import { replayAll } from '../model/recipe.ts';
import { z } from '../model/schema.ts';
import type { Operation, OperationInput, OperationResult } from './chain/operation.ts';
import { emptyResult, followedBy } from './chain/results.ts';
import { fineTriangles } from './kernels/fine-triangles.ts';
import { lineConvolution } from './kernels/line-convolution.ts';
import { onPoints } from './tracing/flow.ts';
import { usualVector } from './tracing/usual-vector.ts';
import { wallShear } from './tracing/wall-shear.ts';

export interface FlowTextureOptions {
  field: string;
  component: 'magnitude';
  /** Of what flows past a wall: as it rubs along there, for at a wall it stands still. */
  rubbing: boolean;
  /** Size of a grain; null for a part of the size of the body. */
  grain: number | null;
  /** Length of a streak to both sides; null for so many grains. */
  streak: number | null;
  /** How much darker the dark streaks are than the light ones. */
  contrast: number;
}

const p = phrasesOf<FlowTextureOptions>();

/** Grains from one end of a body to the other: fine enough to show turns, coarse enough for a picture. Common practice, no source. */
const GRAINS_ACROSS = 320;
/** Grains in half a streak, as is usual in the papers on it (from memory). */
const GRAINS_LONG = 12;
const USUAL_CONTRAST = 0.55;
/** More are not drawn in bearable time; then grains are coarser. */
const MOST_TRIANGLES = 1_200_000;

/** The direction of a flow everywhere on faces, as streaks in their colours: line integral convolution. */
export const flowTexture: Operation<FlowTextureOptions> = {
  id: 'flow texture',
  name: 'Flow texture',
  purpose: 'streaks along the flow all over a surface',
  opening: 'Flow texture of ',
  joining: ', its flow texture',
  schema: z.object({
    field: z.string(),
    component: z.literal('magnitude').default('magnitude'),
    rubbing: z.boolean().default(false),
    grain: boundedNumber().positive().nullable().default(null),
    streak: boundedNumber().positive().nullable().default(null),
    contrast: boundedNumber().min(0).max(1).default(USUAL_CONTRAST),
  }),
  defaults: (setting) => ({
    field: usualVector(setting)?.field ?? '',
    component: 'magnitude',
    rubbing: false,
    grain: null,
    streak: null,
    contrast: USUAL_CONTRAST,
  }),
  phrase: p.row(
    p.maybe(p.text(' by '), p.vectorQuantity('field', 'component')),
    p.flag('rubbing', ' as it rubs along walls'),
    p.suffixes(
      { usual: { grain: null }, phrase: p.row(p.text('in grains of '), p.number('grain', 'length')) },
      {
        usual: { streak: null },
        phrase: p.row(p.text('drawn out over '), p.number('streak', 'length')),
      },
      {
        usual: { contrast: USUAL_CONTRAST },
        phrase: p.row(p.text('with a contrast of '), p.share('contrast')),
      },
    ),
  ),
  lead: p.row(p.text('flow texture of '), p.vectorQuantity('field', 'component')),
  everyday:
    /^(?:a |the )?(?:line integral convolution|lic|brushed flow|flow (?:streaks|grain)|surface streaks)\b/i,
  controls: [
    { kind: 'quantity', key: 'field', component: 'component', label: 'Of', vectors: true },
    {
      kind: 'tick',
      key: 'rubbing',
      label: 'As it rubs along walls',
      called: 'rubbing along walls',
      when: (_, { dimension }) => dimension === 3,
    },
    {
      kind: 'number',
      key: 'grain',
      label: 'Size of a grain',
      unit: 'length',
      none: 'as suits the body',
      range: (_, { bounds }) => [boundsDiagonal(bounds) / 1000, boundsDiagonal(bounds) / 50],
    },
    {
      kind: 'number',
      key: 'streak',
      label: 'Drawn out over',
      unit: 'length',
      none: `${GRAINS_LONG} grains`,
      range: (_, { bounds }) => [0, boundsDiagonal(bounds) / 5],
    },
    { kind: 'share', key: 'contrast', label: 'Contrast' },
  ],
  traits: { showsValues: true, colouredBy: ({ field }) => field },
  scope: 'layer',
  reads: 'step',
  gives: () => 2,
  fits: (setting) => setting.dimension >= 2 && usualVector(setting) !== null,
  needs: ({ field }) => [{ field }],
  run(input, o) {
    const field = input.field({ field: o.field });
    if (!field) return emptyResult({ lacking: ownName(o.field) });
    if (field.components < 2)
      return emptyResult({ lacking: `directions: ${ownName(o.field)} is one number` });
    if (input.dimension < 2) return emptyResult({ lacking: 'faces: they are points or lines' });
    if (o.rubbing && (input.dimension < 3 || field.components < 3))
      return emptyResult({ lacking: 'walls of a body to rub along; leave that out on a surface' });
    const faces = facesOf(input);
    const vectors = o.rubbing ? wallShear(input, faces.mesh, field) : onFaces(faces, input.mesh, field);
    if (!moves(vectors.data))
      return emptyResult({
        lacking: o.rubbing
          ? `motion along its walls: ${ownName(o.field)} is zero all along them`
          : `motion on its faces: ${ownName(o.field)} is zero there. Let it rub along walls, or cut a section first`,
      });
    const grain = o.grain ?? boundsDiagonal(boundsOf(input.mesh.points)) / GRAINS_ACROSS;
    const longest = Math.max(grain, Math.sqrt((AREA * areaOf(faces.mesh)) / MOST_TRIANGLES));
    const fine = fineTriangles(faces.mesh, longest, MOST_TRIANGLES);
    const along = replayAll(fine.recipe!.points, inSpace(vectors), 3);
    const greys = lineConvolution(fine, along, o.streak ?? GRAINS_LONG * longest);
    return {
      ...followedBy(faces, fine),
      shades: greys.map((grey) => 1 - o.contrast * (1 - grey)),
      ...(longest > grain && o.grain !== null
        ? { report: { coarser: { asked: grain, drawn: longest } } }
        : {}),
    };
  },
};

function moves(vectors: ArrayLike<number>): boolean {
  for (let i = 0; i < vectors.length; i++) if (Math.abs(vectors[i]) > 0) return true;
  return false;
}

/** Of all faces together. */
function areaOf(faces: Mesh): number {
  const twice = polygonNormals(faces, false);
  let sum = 0;
  for (let i = 0; i < twice.length; i += 3) sum += Math.hypot(twice[i], twice[i + 1], twice[i + 2]);
  return sum / 2;
}

/** Halved triangles are so many times smaller, in squares of the longest side allowed. Measured on meshes of all kinds. */
const AREA = 4;

const facesOf = (input: OperationInput): OperationResult =>
  input.dimension === 3 ? outerFaces(input.mesh) : { mesh: input.mesh, recipe: null };

function onFaces(faces: OperationResult, mesh: Mesh, field: MeshField): MeshField {
  const data = onPoints(mesh, field);
  return {
    ...field,
    location: 'point',
    data: faces.recipe ? replayAll(faces.recipe.points, data, field.components) : Float32Array.from(data),
  };
}

/** Three numbers for each point; flat runs have two. */
function inSpace({ data, components }: MeshField): ArrayLike<number> {
  if (components === 3) return data;
  const out = new Float32Array((3 * data.length) / components);
  for (let i = 0; i < data.length / components; i++)
    for (let k = 0; k < Math.min(3, components); k++) out[3 * i + k] = data[components * i + k];
  return out;
}
