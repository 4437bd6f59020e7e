import type { Node } from '@gltf-transform/core';
import type { NumberArray } from '../../model/arrays.ts';
import { LINE, TRIANGLE, VERTEX } from '../../model/cell-types.ts';
import type { FieldHeader } from '../../model/field.ts';
import { ReadError } from '../../model/read-error.ts';
import { wholeFile } from '../bytes/byte-source.ts';
import { uniformCells } from '../cells/grid-cells.ts';
import { Findings } from '../door/findings.ts';
import { meshInMemory } from '../door/mesh-in-memory.ts';
import { openedRun, steadyPart } from '../door/opened-run.ts';
import type { FileFormat, OpenedPart } from '../format.ts';
import { looksLikeGltf, moved, numbersOf, readGltfDocument, trianglesOfPrimitive } from './gltf-document.ts';

/** glTF and GLB: every mesh node is a part, moved to where its node stands; materials are left out. */
export const gltf: FileFormat = {
  id: 'gltf',
  name: 'glTF surface',
  extensions: ['.glb', '.gltf'],
  detect: looksLikeGltf,
  async open(source, tools) {
    const besideBytes = (uri: string): Uint8Array | null => {
      const found = tools.beside(uri);
      return found && wholeFile(found);
    };
    const { document, uses } = await readGltfDocument(wholeFile(source), besideBytes);
    const findings = new Findings();
    const parts = document
      .getRoot()
      .listNodes()
      .flatMap((node, i) => partOf(node, i, findings));
    if (parts.length === 0)
      throw new ReadError('the file holds no mesh', 'nodes', 'Write it again with a mesh.');
    if (parts.length === 1) parts[0].name = null;
    return openedRun(parts, { findings, uses, lengthUnit: 'm' });
  },
};

function partOf(node: Node, nth: number, findings: Findings): OpenedPart[] {
  const mesh = node.getMesh();
  if (!mesh) return [];
  const m = node.getWorldMatrix();
  const primitives = mesh.listPrimitives();
  return primitives.flatMap((primitive, i) => {
    const position = primitive.getAttribute('POSITION');
    const triangles = trianglesOfPrimitive(primitive);
    const size = triangles ? 3 : ({ 0: 1, 1: 2 } as Record<number, number>)[primitive.getMode()];
    if (!position || !size) {
      findings.add('strips and loops of lines are left out');
      return [];
    }
    const n = position.getCount();
    const points = moved(numbersOf(primitive, 'POSITION')!, m);
    const indices = primitive.getIndices();
    const nodes =
      triangles ??
      Uint32Array.from({ length: indices?.getCount() ?? n }, (_, k) => indices?.getScalar(k) ?? k);
    const fields = primitive
      .listSemantics()
      .flatMap((semantic): { header: FieldHeader; data: NumberArray }[] => {
        if (!semantic.startsWith('_')) return [];
        const data = primitive.getAttribute(semantic)!;
        return [
          {
            header: {
              name: semantic.slice(1),
              location: 'point',
              components: data.getElementSize(),
              unit: null,
            },
            data: numbersOf(primitive, semantic)!,
          },
        ];
      });
    const name = node.getName() || mesh.getName() || `mesh ${nth + 1}`;
    const cells = uniformCells(size === 3 ? TRIANGLE : size === 2 ? LINE : VERTEX, size, nodes);
    return [
      steadyPart(
        primitives.length > 1 ? `${name} ${i + 1}` : name,
        meshInMemory({ points, ...cells }, fields, findings),
      ),
    ];
  });
}
