import { BufferAttribute, BufferGeometry } from 'three';
import { MeshBVH, type SerializedBVH } from 'three-mesh-bvh';
import type { SurfaceMark } from '#core/model/mark.ts';

/** Surfaces of fewer triangles are searched through on the page at once. */
const SMALL = 5000;

const trees = new WeakMap<SurfaceMark, Promise<MeshBVH>>();
const waiting = new Map<number, (tree: SerializedBVH) => void>();
let worker: Worker | null = null;
let orders = 0;

/** What the worker is asked to build. */
export interface TreeOrder {
  id: number;
  positions: Float32Array;
  triangles: Uint32Array;
}

export interface TreeAnswer {
  id: number;
  tree: SerializedBVH;
}

export function geometryToSearch({
  positions,
  triangles,
}: Pick<SurfaceMark, 'positions' | 'triangles'>): BufferGeometry {
  const g = new BufferGeometry();
  g.setAttribute('position', new BufferAttribute(positions, 3));
  g.setIndex(new BufferAttribute(triangles, 1));
  return g;
}

/** Triangles keep their places: the number of a face that is found is the number of the triangle of the mark. */
export const buildTree = (surface: Pick<SurfaceMark, 'positions' | 'triangles'>): MeshBVH =>
  new MeshBVH(geometryToSearch(surface), { indirect: true });

/** The tree that finds what a ray meets on a surface; built once, away from the page where it is large. */
export function searchTree(surface: SurfaceMark): Promise<MeshBVH> {
  let tree = trees.get(surface);
  if (!tree) trees.set(surface, (tree = made(surface)));
  return tree;
}

async function made(surface: SurfaceMark): Promise<MeshBVH> {
  const { positions, triangles } = surface;
  if (triangles.length < 3 * SMALL || typeof Worker === 'undefined') return buildTree(surface);
  if (!worker) {
    worker = new Worker(new URL('./search-tree-worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<TreeAnswer>) => {
      waiting.get(data.id)?.(data.tree);
      waiting.delete(data.id);
    };
  }
  const id = orders++;
  const tree = await new Promise<SerializedBVH>((resolve) => {
    waiting.set(id, resolve);
    worker!.postMessage({ id, positions, triangles } satisfies TreeOrder);
  });
  return MeshBVH.deserialize(tree, geometryToSearch(surface), { setIndex: false });
}
