import { boundsDiagonal } from '../model/mesh.ts';
import type { RunDescription } from '../model/run.ts';
import type { Vector } from '../model/vectors.ts';
import { newStep, withStepIds } from '../ops/chain/step.ts';
import { planeOnFace, planeRange } from '../ops/kernels/planes.ts';
import { type AnyOperation, operationById } from '../ops/registry.ts';
import { usualVector } from '../ops/tracing/usual-vector.ts';
import type { Layer, Scale, Scene } from './document.ts';
import { colourOfNew } from './read-colour.ts';
import { freshLayer, usualParts } from './read-layer.ts';
import { settingOf } from './setting.ts';

/** Where a face of the model was pointed at, in the coordinates of the files. */
export interface FaceAt {
  part: string;
  place: Vector;
  /** Towards whoever looks. */
  normal: Vector;
}

/** How far a probe plane lies within the face it was put on, as a part of the way through the body, so that it is seen. */
const INSET = 0.02;
const DARK = '#26241f';

/** `Probe 1`, or the next that is free. */
export function probeName({ layers }: Scene): string {
  for (let n = 1; ; n++) if (!layers.some((l) => l.name === `Probe ${n}`)) return `Probe ${n}`;
}

/**
 * A plane put a little below a face, as lines of the scene: the plane in colours, which is dragged, and what follows it:
 * contour lines, arrows where something flows or points, and the mesh of that plane alone, both switched off at first.
 *
 * @param freshId gives each line an id of its own
 */
export function probePlane(
  { part, place, normal }: FaceAt,
  scene: Scene,
  run: RunDescription,
  freshId: () => string,
): { layers: Layer[]; scale: Scale | null } {
  const setting = settingOf(run, scene);
  const name = probeName(scene);
  const on = planeOnFace(place, normal);
  const [low, high] = planeRange(setting.bounds, on.normal);
  // Into the body, away from whoever looks.
  const sense = on.normal.reduce((sum, v, k) => sum + v * normal[k], 0) > 0 ? -1 : 1;
  const digits = Math.max(0, 3 - Math.floor(Math.log10(boundsDiagonal(setting.bounds) || 1)));
  const offset = Number((on.offset + sense * INSET * (high - low)).toFixed(Math.min(12, digits)));
  const isBody = run.parts.some(
    (p) => p.name === part && p.meshes.some((m) => m.dimension === run.dimension),
  );

  const step = (id: string, options: Record<string, unknown> = {}) => {
    const operation = operationById(id) as AnyOperation;
    return newStep(operation, { ...operation.defaults(setting), ...options });
  };
  const plane: Layer = {
    ...freshLayer(run, freshId()),
    name,
    parts: isBody ? [part] : usualParts(run),
    chain: withStepIds([step('section', { normal: on.normal, offset })]),
  };
  const scale = colourOfNew(plane, scene, setting, run, freshId());
  const follower = (what: string, chain: ReturnType<typeof step>, visible: boolean): Layer => ({
    ...freshLayer(run, freshId()),
    name: `${name}, ${what}`,
    parts: null,
    from: plane.id,
    chain: withStepIds([chain]),
    colour: { kind: 'plain', colour: DARK },
    visible,
  });
  const { colour } = plane;
  const flat = run.dimension === 3;
  return {
    scale,
    layers: [
      plane,
      ...(flat && colour.kind === 'field'
        ? [
            follower(
              'contour lines',
              step('contour-lines', {
                field: colour.field,
                component: colour.component,
                levels: { kind: 'scale' },
              }),
              true,
            ),
          ]
        : []),
      ...(usualVector(setting) ? [follower('arrows', step('arrows', { count: 400 }), false)] : []),
      follower('mesh', step('edges'), false),
    ],
  };
}
