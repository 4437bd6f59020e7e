import type { Mesh } from '../../model/mesh.ts';
import { plainOperation } from '../registry.ts';
import { newStep } from './step.ts';
import { understood } from './understood.ts';
import { type ChainContext, plainContext, Workpiece } from './workpiece.ts';

/** One step of a layer's chain, as the scene document stores it. */
export interface ChainStep {
  /** Tells it from the others of its chain; the same wherever it is moved. */
  id?: string;
  op: string;
  options?: unknown;
  /** Form of the options; absent for the first. */
  version?: number;
  /** Switched off: it is passed over and keeps its options. */
  off?: boolean;
}

/** Puts one operation behind a piece; nothing is computed before the result is asked for. What is not understood is passed over. */
export function apply(given: Workpiece, step: ChainStep): Workpiece {
  const known = step.off ? null : understood(step);
  if (!known) return given;
  const { operation, options } = known;
  const piece = operation.on === 'faces' ? facesOf(given) : given;
  return piece.followedBy(
    () => operation.run(piece, options),
    operation.gives(piece.dimension, options),
    () => {
      const pieces = operation.outer?.(piece, options) as Workpiece[] | null | undefined;
      return pieces ? Workpiece.together(pieces) : null;
    },
    operation.gives(2) === 2 && !operation.traits?.displaces,
  );
}

/** Runs a chain and leaves only what can be drawn: a volume at the end is shown by its outer faces. */
export function runChain(source: Workpiece, chain: readonly ChainStep[]): Workpiece {
  return drawn(chain.reduce(apply, source));
}

/** Outer faces of a body; a surface of the files itself is put in order first. */
const facesOf = (piece: Workpiece): Workpiece =>
  piece.dimension === 3 || !piece.isSource ? piece.outer() : inOrder(piece);

/** A source that is no volume, with its doubled faces, strips and hidden lines sorted out. */
const inOrder = (piece: Workpiece): Workpiece => apply(piece, newStep(plainOperation(), {}));

/** What is drawn of the end of a chain. */
export function drawn(piece: Workpiece): Workpiece {
  if (piece.dimension === 3) return piece.outer();
  return piece.isSource ? inOrder(piece) : piece;
}

export const sourceOf = (mesh: Mesh, context: ChainContext = plainContext()): Workpiece =>
  Workpiece.source(mesh, context);
