import type { NumberArray } from '../../model/arrays.ts';
import { byName } from '../../model/by-name.ts';
import type { FieldHeader } from '../../model/field.ts';
import { CutOffError, ReadError } from '../../model/read-error.ts';
import { asFloats } from '../bytes/binary-numbers.ts';
import { fittingCount } from '../bytes/counts.ts';
import { type Cells, gridCellCount, gridCells, pointCells, uniformCells } from '../cells/grid-cells.ts';
import { Findings } from '../door/findings.ts';
import { admitMesh } from '../door/mesh-door.ts';
import { openedRun } from '../door/opened-run.ts';
import type { FileFormat, OpenedMesh, OpenedPart, RawMesh } from '../format.ts';
import { latticePoints } from '../vtk-xml/vtk-xml-grids.ts';
import { childrenOf, readXmlTree, type XmlElement } from '../xml/xml-tree.ts';
import { XdmfItems } from './xdmf-items.ts';

/** Topologies by name: cell type and nodes, 0 where the file says how many (public description of the format). */
const topologies: Record<string, [type: number, nodes: number]> = byName({
  polyvertex: [1, 1],
  polyline: [3, 0],
  polygon: [7, 0],
  triangle: [5, 3],
  quadrilateral: [9, 4],
  tetrahedron: [10, 4],
  pyramid: [14, 5],
  wedge: [13, 6],
  hexahedron: [12, 8],
  edge_3: [21, 3],
  triangle_6: [22, 6],
  tri_6: [22, 6],
  quadrilateral_8: [23, 8],
  quad_8: [23, 8],
  quadrilateral_9: [28, 9],
  quad_9: [28, 9],
  tetrahedron_10: [24, 10],
  tet_10: [24, 10],
  pyramid_13: [27, 13],
  wedge_15: [26, 15],
  hexahedron_20: [25, 20],
  hex_20: [25, 20],
  hexahedron_27: [29, 27],
  hex_27: [29, 27],
});

/** Type numbers within a mixed topology. */
const mixedTypes: Record<number, string> = {
  4: 'triangle',
  5: 'quadrilateral',
  6: 'tetrahedron',
  7: 'pyramid',
  8: 'wedge',
  9: 'hexahedron',
  34: 'edge_3',
  35: 'quadrilateral_9',
  36: 'triangle_6',
  37: 'quadrilateral_8',
  38: 'tetrahedron_10',
  39: 'pyramid_13',
  40: 'wedge_15',
  48: 'hexahedron_20',
  50: 'hexahedron_27',
};

/** XDMF: light data in XML, heavy data in HDF5 files beside it, in binary files, or in place. */
export const xdmf: FileFormat = {
  id: 'xdmf',
  name: 'XDMF',
  extensions: ['.xdmf', '.xmf'],
  manySteps: true,
  detect: (head) => /<Xdmf[\s>]/.test(new TextDecoder().decode(head.subarray(0, 4096))),
  async open(source, tools) {
    const root = readXmlTree(source, tools.find);
    const findings = new Findings();
    const items = new XdmfItems(source, tools, root);
    await items.openFiles();
    const grids = stepsOf(root, items);
    if (grids.length === 0) throw new CutOffError('the file describes no grid', 'Domain');
    const names = [...new Set(grids.flatMap((g) => g.parts.map((p) => p.name)))];
    const parts = names.map(
      (name): OpenedPart => ({
        name: names.length > 1 ? name : null,
        kind: 'mesh',
        at(step) {
          const found = grids[step]?.parts.find((p) => p.name === name);
          return found ? gridState(found.grid, items, findings) : null;
        },
      }),
    );
    return openedRun(parts, { steps: grids.map((g) => g.time), findings, uses: items.files });
  },
};

interface GridStep {
  time: number | null;
  parts: { name: string; grid: XmlElement }[];
}

function timeOf(grid: XmlElement, items: XdmfItems): number | null {
  const [time] = childrenOf(grid, 'Time');
  if (!time) return null;
  if (time.attributes.Value !== undefined) return Number(time.attributes.Value);
  const [item] = childrenOf(time, 'DataItem');
  return item ? items.read(item)[0] : null;
}

/** Grids by step: a collection in time is many, anything else is one. */
function stepsOf(root: XmlElement, items: XdmfItems): GridStep[] {
  const domains = childrenOf(childrenOf(root, 'Xdmf')[0] ?? root, 'Domain');
  const grids = domains.flatMap((d) => childrenOf(d, 'Grid'));
  const temporal = grids.filter(isTemporal);
  if (temporal.length === 0)
    return grids.length > 0
      ? [{ time: timeOf(grids[0], items), parts: grids.flatMap((g) => leaves(g, items)) }]
      : [];
  const byTime = new Map<number, GridStep>();
  for (const series of temporal) {
    const list = childrenOf(series, 'Time')[0];
    const listed =
      list && list.attributes.TimeType === 'List' ? items.read(childrenOf(list, 'DataItem')[0]) : null;
    for (const [i, grid] of childrenOf(series, 'Grid').entries()) {
      const time = timeOf(grid, items) ?? listed?.[i] ?? i;
      const step = byTime.get(time) ?? { time, parts: [] };
      step.parts.push(...leaves(grid, items, temporal.length > 1 ? series.attributes.Name : undefined));
      byTime.set(time, step);
    }
  }
  return [...byTime.values()].sort((a, b) => (a.time ?? 0) - (b.time ?? 0));
}

const isTemporal = (g: XmlElement): boolean =>
  g.attributes.GridType === 'Collection' && g.attributes.CollectionType === 'Temporal';

/** Grids that hold a mesh, with the names of the collections above them. */
function leaves(grid: XmlElement, items: XdmfItems, name?: string): { name: string; grid: XmlElement }[] {
  const kind = grid.attributes.GridType;
  if (kind !== 'Collection' && kind !== 'Tree')
    return items.find(grid, 'Topology') ? [{ name: name ?? grid.attributes.Name ?? 'grid', grid }] : [];
  return childrenOf(grid, 'Grid').flatMap((g, i) => leaves(g, items, g.attributes.Name ?? `grid ${i + 1}`));
}

function gridState(grid: XmlElement, items: XdmfItems, findings: Findings): OpenedMesh {
  const topology = items.find(grid, 'Topology')!;
  const geometry = items.find(grid, 'Geometry');
  const attributes = childrenOf(grid, 'Attribute').filter((a) => {
    const center = (a.attributes.Center ?? 'Node').toLowerCase();
    if (center === 'node' || center === 'cell') return true;
    if (center !== 'grid') findings.add(`${a.attributes.Name}: values on ${center}s are left out`);
    return false;
  });
  const mesh = (): RawMesh => admitMesh(readMesh(topology, geometry, items), findings);
  let known: RawMesh | null = null;
  const kept = (): RawMesh => (known ??= mesh());
  const fields = attributes.map((a): FieldHeader => {
    const dims = items.dimensions(childrenOf(a, 'DataItem')[0]);
    return {
      name: a.attributes.Name ?? 'field',
      location: (a.attributes.Center ?? 'Node').toLowerCase() === 'cell' ? 'cell' : 'point',
      components: componentsOf(a.attributes.AttributeType ?? 'Scalar', dims),
      unit: null,
    };
  });
  return {
    get points() {
      return kept().points.length / 3;
    },
    get cells() {
      return kept().types.length;
    },
    fields,
    meshKey: items.key(topology, geometry),
    readMesh: kept,
    readField: (index) => items.read(childrenOf(attributes[index], 'DataItem')[0]),
  };
}

const componentsOfType = byName({ scalar: 1, vector: 3, tensor: 9, tensor6: 6 });

function componentsOf(type: string, dims: number[]): number {
  const stated = type.toLowerCase() === 'matrix' ? dims.at(-1) : componentsOfType[type.toLowerCase()];
  if (type.toLowerCase() === 'vector' && dims.length > 1) return dims.at(-1)!;
  return stated ?? 1;
}

function readMesh(topology: XmlElement, geometry: XmlElement | null, items: XdmfItems): RawMesh {
  const type = (topology.attributes.TopologyType ?? topology.attributes.Type ?? '').toLowerCase();
  if (/rectmesh|smesh/.test(type)) {
    const dims = (topology.attributes.Dimensions ?? topology.attributes.NumberOfElements ?? '')
      .trim()
      .split(/\s+/)
      .map(Number)
      .reverse();
    while (dims.length < 3) dims.push(1);
    if (dims.some((d) => !Number.isInteger(d) || d < 1) || gridCellCount(dims) > 2 ** 28)
      throw new ReadError(
        `the grid has dimensions "${topology.attributes.Dimensions}"`,
        'Topology',
        'Correct the file.',
      );
    return { points: gridPoints(geometry, dims, items), ...gridCells(dims) };
  }
  return { points: plainPoints(geometry, items), ...cellsOf(topology, type, geometry, items) };
}

function cellsOf(topology: XmlElement, type: string, geometry: XmlElement | null, items: XdmfItems): Cells {
  const [item] = childrenOf(topology, 'DataItem');
  if (!item) return pointCells(plainPoints(geometry, items).length / 3);
  const table = items.read(item);
  if (type === 'mixed') return mixedCells(table);
  const known = topologies[type];
  if (!known)
    throw new ReadError(`the topology "${type}" is not read`, 'Topology', 'Write linear or quadratic cells.');
  const perElement = Number(topology.attributes.NodesPerElement ?? items.dimensions(item)[1] ?? 2);
  const nodes = fittingCount(known[1] || perElement, table.length, 1, 'Topology / NodesPerElement') || 1;
  const id = type === 'polyline' && nodes > 2 ? 4 : known[0];
  return uniformCells(id, nodes, Uint32Array.from(table));
}

function mixedCells(table: NumberArray): Cells {
  const types: number[] = [];
  const ends: number[] = [0];
  const nodes: number[] = [];
  for (let at = 0; at < table.length; ) {
    const id = table[at++];
    const name = mixedTypes[id];
    let [type, size] = name ? topologies[name] : [0, 0];
    if (id === 1) [type, size] = [table[at] === 1 ? 1 : 2, table[at++]];
    else if (id === 2) [type, size] = [table[at] === 2 ? 3 : 4, table[at++]];
    else if (id === 3) [type, size] = [7, table[at++]];
    if (!type || !(size >= 0) || at + size > table.length)
      throw new ReadError(
        `cell type ${id} is not read or the list ends too early`,
        `Topology, entry ${at}`,
        'Write it again.',
      );
    for (let k = 0; k < size; k++) nodes.push(table[at++]);
    types.push(type);
    ends.push(nodes.length);
  }
  return {
    types: Uint8Array.from(types),
    offsets: Uint32Array.from(ends),
    connectivity: Uint32Array.from(nodes),
  };
}

function plainPoints(geometry: XmlElement | null, items: XdmfItems): Float32Array | Float64Array {
  if (!geometry) throw new ReadError('the grid has no geometry', 'Grid', 'Write it again with its points.');
  const type = (geometry.attributes.GeometryType ?? geometry.attributes.Type ?? 'XYZ').toUpperCase();
  const data = childrenOf(geometry, 'DataItem');
  if (type === 'XYZ') return asFloats(items.read(data[0]));
  if (type === 'XY') {
    const flat = items.read(data[0]);
    const out = new Float64Array((flat.length / 2) * 3);
    for (let i = 0; i < flat.length / 2; i++) {
      out[3 * i] = flat[2 * i];
      out[3 * i + 1] = flat[2 * i + 1];
    }
    return out;
  }
  if (type === 'X_Y_Z' || type === 'X_Y') {
    const axes = data.map((d) => items.read(d));
    const out = new Float64Array(3 * axes[0].length);
    for (const [k, axis] of axes.entries()) for (let i = 0; i < axis.length; i++) out[3 * i + k] = axis[i];
    return out;
  }
  throw new ReadError(`the geometry "${type}" is not read`, 'Geometry', 'Write points as XYZ.');
}

function gridPoints(
  geometry: XmlElement | null,
  dims: number[],
  items: XdmfItems,
): Float32Array | Float64Array {
  const type = (geometry?.attributes.GeometryType ?? geometry?.attributes.Type ?? '').toUpperCase();
  const data = (geometry ? childrenOf(geometry, 'DataItem') : []).map((d) => items.read(d));
  if (type.startsWith('ORIGIN_')) {
    const origin = Array.from(data[0]).reverse();
    const spacing = Array.from(data[1]).reverse();
    return latticePoints(dims, (i, j, k, out, at) => {
      out[at] = origin[0] + i * spacing[0];
      out[at + 1] = origin[1] + j * spacing[1];
      out[at + 2] = (origin[2] ?? 0) + k * (spacing[2] ?? 0);
    });
  }
  if (type.startsWith('VX')) {
    return latticePoints(dims, (i, j, k, out, at) => {
      out[at] = data[0][i];
      out[at + 1] = data[1][j];
      out[at + 2] = data[2]?.[k] ?? 0;
    });
  }
  return plainPoints(geometry, items);
}
