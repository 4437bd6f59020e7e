import type { NumberArray } from '../../model/arrays.ts';
import { cellTypes } from '../../model/cell-types.ts';
import type { FieldHeader } from '../../model/field.ts';
import { CutOffError, ReadError } from '../../model/read-error.ts';
import { asUint32 } from '../bytes/binary-numbers.ts';
import { type Cells, gridCells, joinCells } from '../cells/grid-cells.ts';
import { cellsOfFaces } from '../cells/polyhedral-cells.ts';
import { componentNames } from '../door/component-names.ts';
import { Findings } from '../door/findings.ts';
import { admitMesh } from '../door/mesh-door.ts';
import { once, openedRun } from '../door/opened-run.ts';
import type { Hierarchy, OpenedMesh, OpenedPart, OpenedRun, RawMesh } from '../format.ts';
import { interleaved } from '../tables/table-points.ts';
import { NFACE, NGON, sectionCells } from './cgns-cells.ts';

export const isCgns = (file: Hierarchy): boolean =>
  file.list('/').some((n) => file.attribute(n, 'label') === 'CGNSBase_t');

/** A node of the CGNS tree: its name, its label and its place. */
interface Node {
  name: string;
  label: string;
  path: string;
}

class Tree {
  constructor(readonly file: Hierarchy) {}
  children(path: string, label?: string): Node[] {
    return this.file
      .list(path)
      .map((name) => ({
        name,
        path: `${path}/${name}`,
        label: String(this.file.attribute(`${path}/${name}`, 'label') ?? ''),
      }))
      .filter((n) => n.label !== '' && (!label || n.label === label));
  }
  has(path: string): boolean {
    return this.file.kind(`${path}/ data`) === 'array';
  }
  numbers(path: string): NumberArray {
    return this.file.numbers(`${path}/ data`);
  }
  text(path: string): string {
    return this.has(path) ? this.file.text(`${path}/ data`).trim() : '';
  }
}

/** CGNS: zones and their boundary sections are parts, families are sets of parts, solutions are steps. */
export function cgnsRun(file: Hierarchy): OpenedRun {
  const tree = new Tree(file);
  const findings = new Findings();
  const parts: OpenedPart[] = [];
  const sets = new Map<string, string[]>();
  let times: number[] = [];
  for (const base of tree.children('', 'CGNSBase_t')) {
    const [cellDimension] = tree.numbers(base.path);
    const [iterative] = tree.children(base.path, 'BaseIterativeData_t');
    if (iterative && tree.has(`${iterative.path}/TimeValues`))
      times = Array.from(tree.numbers(`${iterative.path}/TimeValues`));
    const zones = tree.children(base.path, 'Zone_t');
    for (const zone of zones) {
      const found = zoneParts(tree, zone, cellDimension, zones.length > 1, findings);
      parts.push(...found.parts);
      for (const [family, names] of found.families) sets.set(family, [...(sets.get(family) ?? []), ...names]);
    }
  }
  if (parts.length === 0) throw new CutOffError('the file holds no zone with a mesh', 'CGNSBase_t');
  return openedRun(parts, {
    steps: times.length > 0 ? times : [null],
    findings,
    sets: [...sets].map(([name, list]) => ({ name, parts: list })),
  });
}

function zoneParts(
  tree: Tree,
  zone: Node,
  cellDimension: number,
  several: boolean,
  findings: Findings,
): { parts: OpenedPart[]; families: Map<string, string[]> } {
  const structured = tree.text(`${zone.path}/ZoneType`) === 'Structured';
  const families = new Map<string, string[]>();
  const family = tree.children(zone.path, 'FamilyName_t')[0];
  if (family) families.set(tree.text(family.path), [zone.name]);
  const points = once(() => readPoints(tree, zone));
  const part = (name: string, cells: () => Omit<RawMesh, 'points'>, body: boolean): OpenedPart => {
    const mesh = once(() =>
      body ? admitMesh({ points: points(), ...cells() }, findings) : compact(points(), cells(), findings),
    );
    return {
      name,
      kind: 'mesh',
      at: (step) => zoneState(tree, zone, step, mesh, body, `${zone.name}/${name}`),
    };
  };
  if (structured) {
    const size = tree.numbers(zone.path);
    const dims = [0, 1, 2].map((k) => (k < cellDimension ? size[k] : 1));
    return { parts: [part(zone.name, () => gridCells(dims), true)], families };
  }
  const sections = tree.children(zone.path, 'Elements_t').map((node) => {
    const [element] = tree.numbers(node.path);
    const [from, to] = tree.numbers(`${node.path}/ElementRange`);
    const cells = once((): Cells => {
      const table = tree.numbers(`${node.path}/ElementConnectivity`);
      const starts = tree.has(`${node.path}/ElementStartOffset`)
        ? tree.numbers(`${node.path}/ElementStartOffset`)
        : null;
      return sectionCells(element, table, starts, `${zone.name} / ${node.name}`);
    });
    return { node, element, from, to, cells };
  });
  const faces = sections.find((s) => s.element === NFACE);
  const polygons = sections.find((s) => s.element === NGON);
  if (faces && polygons) {
    const body = once(() => polyhedra(tree, faces.node, polygons.cells(), polygons.from));
    const parts = [part(zone.name, body, true)];
    return { parts, families: addBoundaries(tree, zone, families, parts, polygons, findings, part) };
  }
  const dimensionOf = (s: (typeof sections)[number]): number =>
    cellTypes.get(s.cells().types[0])?.dimension ?? 0;
  const bodies = sections.filter((s) => dimensionOf(s) === cellDimension);
  const borders = sections.filter((s) => dimensionOf(s) < cellDimension);
  const parts: OpenedPart[] = [];
  if (bodies.length > 0)
    parts.push(
      part(
        zone.name,
        once(() => joinCells(bodies.map((s) => s.cells()))),
        true,
      ),
    );
  for (const s of borders) {
    parts.push(part(several ? `${zone.name} / ${s.node.name}` : s.node.name, s.cells, false));
  }
  return { parts, families: boundaryFamilies(tree, zone, families, borders, several) };
}

/** Families of boundary conditions as sets of the sections they cover. */
function boundaryFamilies(
  tree: Tree,
  zone: Node,
  families: Map<string, string[]>,
  borders: { node: Node; from: number; to: number }[],
  several: boolean,
): Map<string, string[]> {
  for (const [bc] of boundaryConditions(tree, zone)) {
    const range = boundaryRange(tree, bc);
    const family = tree.children(bc.path, 'FamilyName_t')[0];
    const name = family ? tree.text(family.path) : bc.name;
    const names = borders
      .filter((s) => range && range[0] <= s.from && range[1] >= s.to)
      .map((s) => (several ? `${zone.name} / ${s.node.name}` : s.node.name));
    if (names.length > 0) families.set(name, [...(families.get(name) ?? []), ...names]);
  }
  return families;
}

function* boundaryConditions(tree: Tree, zone: Node): Generator<[Node]> {
  for (const group of tree.children(zone.path, 'ZoneBC_t'))
    for (const bc of tree.children(group.path, 'BC_t')) yield [bc];
}

function boundaryRange(tree: Tree, bc: Node): [number, number] | null {
  const name = ['PointRange', 'ElementRange'].find((n) => tree.has(`${bc.path}/${n}`));
  if (name) {
    const [from, to] = tree.numbers(`${bc.path}/${name}`);
    return [from, to];
  }
  const list = ['PointList', 'ElementList'].find((n) => tree.has(`${bc.path}/${n}`));
  if (!list) return null;
  const values = Array.from(tree.numbers(`${bc.path}/${list}`));
  return [values.reduce((a, b) => Math.min(a, b)), values.reduce((a, b) => Math.max(a, b))];
}

/** Of polyhedral zones, the polygons of each boundary condition as a part. */
function addBoundaries(
  tree: Tree,
  zone: Node,
  families: Map<string, string[]>,
  parts: OpenedPart[],
  polygons: { cells: () => Cells; from: number },
  findings: Findings,
  part: (name: string, cells: () => Omit<RawMesh, 'points'>, body: boolean) => OpenedPart,
): Map<string, string[]> {
  for (const [bc] of boundaryConditions(tree, zone)) {
    const range = boundaryRange(tree, bc);
    if (!range) {
      findings.add(`the boundary ${bc.name} has no faces and is left out`);
      continue;
    }
    parts.push(
      part(
        bc.name,
        () => someCells(polygons.cells(), range[0] - polygons.from, range[1] - polygons.from + 1),
        false,
      ),
    );
    const family = tree.children(bc.path, 'FamilyName_t')[0];
    if (family) {
      const name = tree.text(family.path);
      families.set(name, [...(families.get(name) ?? []), bc.name]);
    }
  }
  return families;
}

function someCells(cells: Cells, from: number, to: number): Cells {
  const first = cells.offsets[from];
  return {
    types: cells.types.slice(from, to),
    offsets: cells.offsets.slice(from, to + 1).map((o) => o - first),
    connectivity: cells.connectivity.slice(first, cells.offsets[to]),
  };
}

function polyhedra(tree: Tree, node: Node, polygons: Cells, firstFace: number): Omit<RawMesh, 'points'> {
  const table = tree.numbers(`${node.path}/ElementConnectivity`);
  const stated = tree.has(`${node.path}/ElementStartOffset`)
    ? tree.numbers(`${node.path}/ElementStartOffset`)
    : null;
  const faces: number[] = [];
  const starts: number[] = [0];
  // A negative number is a face that looks inward; without offsets each cell begins with its number of faces.
  const face = (n: number): number => faces.push(Math.abs(n) - firstFace);
  if (stated) {
    for (let c = 0; c + 1 < stated.length; c++) {
      for (let i = stated[c]; i < stated[c + 1]; i++) face(table[i]);
      starts.push(faces.length);
    }
  } else {
    for (let at = 0; at < table.length; ) {
      const n = table[at++];
      for (let k = 0; k < n; k++) face(table[at++]);
      starts.push(faces.length);
    }
  }
  if (faces.some((f) => !(f >= 0 && f < polygons.types.length)))
    throw new ReadError(
      'a cell uses a face that is not there',
      node.name,
      'The file is inconsistent; write it again.',
    );
  return cellsOfFaces(
    Uint32Array.from(starts),
    Uint32Array.from(faces),
    polygons.offsets,
    polygons.connectivity,
  );
}

function readPoints(tree: Tree, zone: Node): Float32Array | Float64Array {
  const [grid] = tree.children(zone.path, 'GridCoordinates_t');
  if (!grid) throw new ReadError('the zone has no coordinates', zone.name, 'Write it again with its mesh.');
  const axes = ['CoordinateX', 'CoordinateY', 'CoordinateZ'].map((n) =>
    tree.has(`${grid.path}/${n}`) ? tree.numbers(`${grid.path}/${n}`) : null,
  );
  const n = axes.find((a) => a !== null)?.length ?? 0;
  const single = axes.every((a) => a === null || a instanceof Float32Array);
  const out = single ? new Float32Array(3 * n) : new Float64Array(3 * n);
  for (const [k, axis] of axes.entries()) if (axis) for (let i = 0; i < n; i++) out[3 * i + k] = axis[i];
  return out;
}

/** Points in the order of the zone for each point of the part; null where they are all of them. */
interface Compacted extends RawMesh {
  points: Float32Array | Float64Array;
  original?: Uint32Array;
}

function compact(
  points: Float32Array | Float64Array,
  cells: Omit<RawMesh, 'points'>,
  findings: Findings,
): Compacted {
  const map = new Map<number, number>();
  const connectivity = cells.connectivity.map((p) => {
    const known = map.get(p);
    if (known !== undefined) return known;
    map.set(p, map.size);
    return map.size - 1;
  });
  const original = Uint32Array.from(map.keys());
  const own = new Float64Array(3 * original.length);
  for (const [i, p] of original.entries())
    for (let k = 0; k < 3; k++) own[3 * i + k] = points[3 * p + k] ?? Number.NaN;
  const mesh = admitMesh({ ...cells, points: own, connectivity: asUint32(connectivity) }, findings);
  return { ...mesh, original };
}

function zoneState(
  tree: Tree,
  zone: Node,
  step: number,
  mesh: () => Compacted,
  body: boolean,
  meshKey: string,
): OpenedMesh {
  const fields: FieldHeader[] = [];
  const read: (() => NumberArray)[] = [];
  for (const solution of solutionsAt(tree, zone, step)) {
    const where = tree.text(`${solution.path}/GridLocation`) || 'Vertex';
    const location = where === 'CellCenter' ? 'cell' : where === 'Vertex' ? 'point' : null;
    // Values of cells belong to the bodies; boundary sections are other cells.
    if (!location || (location === 'cell' && !body)) continue;
    const arrays = tree.children(solution.path, 'DataArray_t');
    for (const group of componentNames(arrays.map((a) => a.name))) {
      fields.push({ name: group.name, location, components: group.columns.length, unit: null });
      read.push(() => {
        const columns = group.columns.map((c) => tree.numbers(arrays[c].path));
        const { original } = mesh();
        if (original) return interleaved(columns.map((c) => Float64Array.from(original, (p) => c[p])));
        return columns.length === 1 ? columns[0] : interleaved(columns);
      });
    }
  }
  return {
    get points() {
      return mesh().points.length / 3;
    },
    get cells() {
      return mesh().types.length;
    },
    fields,
    meshKey,
    readMesh: mesh,
    readField: (index) => read[index](),
  };
}

/** The solutions of a step: those the zone points to, the n-th ones, or all of them when there is one step. */
function solutionsAt(tree: Tree, zone: Node, step: number): Node[] {
  const all = tree.children(zone.path, 'FlowSolution_t');
  const [iterative] = tree.children(zone.path, 'ZoneIterativeData_t');
  const wanted: string[] = [];
  if (iterative) {
    for (const pointers of tree.children(iterative.path, 'DataArray_t')) {
      if (!/^FlowSolution.*Pointers$/.test(pointers.name)) continue;
      const codes = tree.numbers(pointers.path);
      const text = String.fromCharCode(
        ...Array.from(codes.subarray(32 * step, 32 * step + 32) as unknown as number[]),
      );
      wanted.push(text.replace(/\0/g, ' ').trim());
    }
  }
  if (wanted.length > 0) return all.filter((s) => wanted.includes(s.name));
  return all;
}
