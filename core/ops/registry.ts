import { arrows } from './arrows.ts';
import { averageToCells } from './average-to-cells.ts';
import { averageToPoints } from './average-to-points.ts';
import type { Operation } from './chain/operation.ts';
import { clip } from './clip.ts';
import { arrivals, departures } from './comings.ts';
import { contourLines } from './contour-lines.ts';
import { creaseLines } from './crease-lines.ts';
import { deform } from './deform.ts';
import { deposits } from './deposits.ts';
import { edges } from './edges.ts';
import { extrude } from './extrude.ts';
import { flowTexture } from './flow-texture.ts';
import { frictionLines } from './friction-lines.ts';
import { isosurface } from './isosurface.ts';
import { keepWhere } from './keep-where.ts';
import { mirror } from './mirror.ts';
import { offset } from './offset.ts';
import { pathLines } from './path-lines.ts';
import { points } from './points.ts';
import { probeCircle } from './probe-circle.ts';
import { probeLine } from './probe-line.ts';
import { repeat } from './repeat.ts';
import { revolve } from './revolve.ts';
import { ribbons } from './ribbons.ts';
import { section } from './section.ts';
import { shrink } from './shrink.ts';
import { spheres } from './spheres.ts';
import { streakLines } from './streak-lines.ts';
import { streamlines } from './streamlines.ts';
import { surface } from './surface.ts';
import { trails } from './trails.ts';
import { travelling } from './travelling.ts';
import { tubes } from './tubes.ts';
import { volume } from './volume.ts';

// biome-ignore lint/suspicious/noExplicitAny: options are checked by the schema of the operation they belong to
export type AnyOperation = Operation<any>;

/** Every operation a chain can hold. A new one is a file beside this and a line here. */
export const operations: readonly AnyOperation[] = [
  surface,
  section,
  clip,
  isosurface,
  contourLines,
  probeLine,
  probeCircle,
  arrows,
  streamlines,
  pathLines,
  streakLines,
  frictionLines,
  flowTexture,
  tubes,
  ribbons,
  travelling,
  keepWhere,
  deform,
  mirror,
  repeat,
  revolve,
  extrude,
  edges,
  creaseLines,
  points,
  spheres,
  trails,
  arrivals,
  departures,
  deposits,
  volume,
  shrink,
  averageToPoints,
  averageToCells,
  offset,
];

/** @throws Error when the scene names an operation this version does not have */
export function operationById(id: string): AnyOperation {
  const found = operations.find((op) => op.id === id);
  if (!found) throw new Error(`There is no operation "${id}" in this version.`);
  return found;
}

/** The one that does something no other does; see `OperationTraits`. */
function theOne(trait: 'plain' | 'opensBodies'): AnyOperation {
  return operations.find((o) => o.traits?.[trait])!;
}

/** What gives lone points a body. */
export const bodyOperation = (of: 'points'): AnyOperation =>
  operations.find((o) => o.traits?.givesBodyTo === of)!;

/** What a layer without operations goes through. */
export const plainOperation = (): AnyOperation => theOne('plain');

/** What opens a body up so that one sees inside. */
export const openingOperation = (): AnyOperation => theOne('opensBodies');
