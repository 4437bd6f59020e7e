import type { Mesh } from '../../model/mesh.ts';
import { understood } from './understood.ts';
import { type ChainContext, plainContext, Workpiece } from './workpiece.ts';

/** One step of a layer's chain, as the scene document stores it. */
export interface ChainStep {
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
    operation.gives(piece.dimension),
    () => {
      const pieces = operation.outer?.(piece, options) as Workpiece[] | null | undefined;
      return pieces ? Workpiece.together(pieces) : null;
    },
  );
}

/** Runs a chain and leaves only what can be drawn: a volume at the end is shown by its outer faces. */
export function runChain(source: Workpiece, chain: readonly ChainStep[]): Workpiece {
  return drawn(chain.reduce(apply, source));
}

/** Outer faces of a body; a surface of the files itself is put in order first. */
const facesOf = (piece: Workpiece): Workpiece =>
  piece.dimension === 3 || !piece.isSource ? piece.outer() : apply(piece, { op: 'surface', options: {} });

/** What is drawn of the end of a chain. */
export function drawn(piece: Workpiece): Workpiece {
  if (piece.dimension === 3) return piece.outer();
  // A source that is no volume still has doubled faces, strips and hidden lines to be sorted out.
  return piece.isSource ? apply(piece, { op: 'surface', options: {} }) : piece;
}

export const sourceOf = (mesh: Mesh, context: ChainContext = plainContext()): Workpiece =>
  Workpiece.source(mesh, context);
