import type { NumberArray } from '../../model/arrays.ts';
import type { FieldHeader } from '../../model/field.ts';
import { fittingCount } from '../bytes/counts.ts';
import { uniformCells } from '../cells/grid-cells.ts';
import { componentNames, type NamedComponents, reordered, verticalFirst } from '../door/component-names.ts';
import type { Findings } from '../door/findings.ts';
import { admitMesh } from '../door/mesh-door.ts';
import { openedRun } from '../door/opened-run.ts';
import type { CellGroup, OpenedMesh, OpenedPart, OpenedRun } from '../format.ts';
import { interleaved } from '../tables/table-points.ts';
import type { NetcdfFile } from './netcdf-file.ts';

export const isExodus = (file: NetcdfFile): boolean =>
  file.dimensions.num_el_blk !== undefined && (file.variables.has('coordx') || file.variables.has('coord'));

/** Cell types by the first letters of an element type and its number of nodes (public manual of the format). */
const elements: [RegExp, Record<number, number>][] = [
  [/^hex/i, { 8: 12, 20: 25, 27: 29 }],
  [/^tet/i, { 4: 10, 10: 24 }],
  [/^(wedge|penta)/i, { 6: 13, 15: 26 }],
  [/^pyr/i, { 5: 14, 13: 27 }],
  [/^tri/i, { 3: 5, 6: 22 }],
  [/^(quad|shell)/i, { 3: 5, 4: 9, 6: 22, 8: 23, 9: 28 }],
  [/^(bar|beam|truss|edge|rod)/i, { 2: 3, 3: 21 }],
  [/^(sphere|circle|node|point)/i, { 1: 1 }],
];

const orders: Record<number, number[]> = {
  ...verticalFirst,
  29: [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 16, 17, 18, 19, 12, 13, 14, 15, 23, 24, 25, 26, 21, 22, 20],
};

/** Exodus II: element blocks are parts, side and node sets are sets of cells, results over time steps. */
export function exodusRun(file: NetcdfFile, findings: Findings): OpenedRun {
  const times = file.variables.has('time_whole') ? Array.from(file.read('time_whole')) : [];
  const names = file.variables.has('eb_names') ? file.texts('eb_names') : [];
  const ids = file.variables.has('eb_prop1') ? file.read('eb_prop1') : null;
  const nodal = file.variables.has('name_nod_var') ? file.texts('name_nod_var') : [];
  const elemental = file.variables.has('name_elem_var') ? file.texts('name_elem_var') : [];
  const parts: OpenedPart[] = [];
  let first = 0;
  const blocks = Math.min(file.dimensions.num_el_blk, file.variables.size);
  for (let b = 1; b <= blocks; b++) {
    const connect = file.variables.get(`connect${b}`);
    if (!connect || connect.shape.length !== 2) {
      if (connect) findings.add(`block ${b} has cells of varying size and is left out`);
      continue;
    }
    const typeName = String(connect.attributes.elem_type ?? '');
    const type = elements.find(([p]) => p.test(typeName))?.[1][connect.shape[1]];
    const begin = first;
    first += connect.shape[0];
    if (!type) {
      findings.add(
        `block ${b} has elements "${typeName}" of ${connect.shape[1]} nodes, which are not read, and is left out`,
      );
      continue;
    }
    parts.push({
      name: names[b - 1] || `block ${ids ? ids[b - 1] : b}`,
      kind: 'mesh',
      at: (step) => blockState(file, b, type, step, times.length > 0, nodal, elemental, begin, findings),
    });
  }
  return openedRun(parts, { steps: times.length > 0 ? times : [null], findings });
}

function blockState(
  file: NetcdfFile,
  block: number,
  type: number,
  step: number,
  timed: boolean,
  nodal: string[],
  elemental: string[],
  begin: number,
  findings: Findings,
): OpenedMesh {
  const [cells, width] = file.variables.get(`connect${block}`)!.shape;
  const { nodes, connectivity } = localNodes(file, block);
  const read: (() => NumberArray)[] = [];
  const fields: FieldHeader[] = [];
  const add = (
    group: NamedComponents,
    location: 'point' | 'cell',
    column: (index: number) => NumberArray,
  ): void => {
    fields.push({ name: group.name, location, components: group.columns.length, unit: null });
    read.push(() => interleaved(group.columns.map(column)));
  };
  if (timed) {
    // Variables with more numbers a node than one are no part of the format.
    const plain = nodal.flatMap((_, i) =>
      (file.variables.get(`vals_nod_var${i + 1}`)?.shape.length ?? 2) === 2 ? [i] : [],
    );
    for (const group of componentNames(plain.map((i) => nodal[i]))) {
      add(group, 'point', (column) => {
        const i = plain[column];
        const all = file.variables.has(`vals_nod_var${i + 1}`)
          ? file.read(`vals_nod_var${i + 1}`, step)
          : packedNodal(file, step, i);
        return Float64Array.from(nodes, (p) => all[p]);
      });
    }
    const there = (i: number): boolean => file.variables.has(`vals_elem_var${i + 1}eb${block}`);
    for (const group of componentNames(elemental)) {
      if (group.columns.every(there))
        add(group, 'cell', (i) => Float64Array.from(file.read(`vals_elem_var${i + 1}eb${block}`, step)));
    }
  }
  return {
    points: nodes.length,
    cells,
    fields,
    meshKey: `block ${block}`,
    readMesh: () =>
      admitMesh(
        {
          points: coordinates(file, nodes),
          ...uniformCells(type, width, reordered(connectivity, orders[type])),
        },
        findings,
      ),
    readField: (index) => read[index](),
    readGroups: () => setsOf(file, begin, cells, nodes, connectivity, width),
  };
}

function packedNodal(file: NetcdfFile, step: number, index: number): NumberArray {
  const all = file.read('vals_nod_var', step);
  const n = file.dimensions.num_nodes;
  return all.slice(index * n, (index + 1) * n);
}

const shapeSize = (shape: number[] | undefined): number => (shape ?? [0]).reduce((n, d) => n * d, 1);

/** The nodes a block uses, and its connectivity in their numbers. */
function localNodes(file: NetcdfFile, block: number): { nodes: Uint32Array; connectivity: Uint32Array } {
  const table = file.read(`connect${block}`);
  const most = Math.max(0, ...['coord', 'coordx'].map((c) => shapeSize(file.variables.get(c)?.shape)));
  const map = new Int32Array(fittingCount(file.dimensions.num_nodes, most, 1, 'num_nodes') + 1).fill(-1);
  const nodes: number[] = [];
  const connectivity = new Uint32Array(table.length);
  for (let i = 0; i < table.length; i++) {
    const n = table[i];
    if (!(n >= 1 && n < map.length)) {
      connectivity[i] = 0xffffffff;
      continue;
    }
    if (map[n] < 0) {
      map[n] = nodes.length;
      nodes.push(n - 1);
    }
    connectivity[i] = map[n];
  }
  return { nodes: Uint32Array.from(nodes), connectivity };
}

function coordinates(file: NetcdfFile, nodes: Uint32Array): Float64Array {
  const count = file.dimensions.num_nodes;
  const flat = file.variables.has('coord') ? file.read('coord') : null;
  const out = new Float64Array(3 * nodes.length);
  for (const [k, axis] of ['x', 'y', 'z'].entries()) {
    const values = file.variables.has(`coord${axis}`)
      ? file.read(`coord${axis}`)
      : flat && flat.length >= (k + 1) * count
        ? flat.subarray(k * count, (k + 1) * count)
        : null;
    if (values) for (let p = 0; p < nodes.length; p++) out[3 * p + k] = values[nodes[p]];
  }
  return out;
}

/** Cells a side set names, and cells that touch the nodes of a node set. */
function setsOf(
  file: NetcdfFile,
  begin: number,
  cells: number,
  nodes: Uint32Array,
  connectivity: Uint32Array,
  width: number,
): CellGroup[] {
  const out: CellGroup[] = [];
  const named = (variable: string, index: number, word: string): string =>
    (file.variables.has(variable) ? file.texts(variable)[index - 1] : '') || `${word} ${index}`;
  for (let s = 1; file.variables.has(`elem_ss${s}`); s++) {
    const own = new Set<number>();
    for (const e of file.read(`elem_ss${s}`))
      if (e - 1 >= begin && e - 1 < begin + cells) own.add(e - 1 - begin);
    if (own.size > 0)
      out.push({ name: named('ss_names', s, 'side set'), cells: Uint32Array.from(own).sort() });
  }
  for (let s = 1; file.variables.has(`node_ns${s}`); s++) {
    const wanted = new Set(Array.from(file.read(`node_ns${s}`), (n) => n - 1));
    const own: number[] = [];
    for (let c = 0; c < cells; c++) {
      for (let k = 0; k < width; k++) {
        if (!wanted.has(nodes[connectivity[c * width + k]])) continue;
        own.push(c);
        break;
      }
    }
    if (own.length > 0) out.push({ name: named('ns_names', s, 'node set'), cells: Uint32Array.from(own) });
  }
  return out;
}
