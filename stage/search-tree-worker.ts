import { MeshBVH } from 'three-mesh-bvh';
import { buildTree, type TreeAnswer, type TreeOrder } from './search-tree.ts';

const port = self as unknown as {
  onmessage: (event: { data: TreeOrder }) => void;
  postMessage(answer: TreeAnswer, transfer: ArrayBuffer[]): void;
};

port.onmessage = ({ data: { id, ...surface } }) => {
  const tree = MeshBVH.serialize(buildTree(surface), { cloneBuffers: false });
  // The triangles are known to the asker.
  port.postMessage({ id, tree: { ...tree, index: null as never } }, tree.roots);
};
