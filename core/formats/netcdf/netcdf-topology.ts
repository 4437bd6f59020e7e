import { POLYGON, QUAD, TRIANGLE } from '../../model/cell-types.ts';
import type { FieldHeader } from '../../model/field.ts';
import { ReadError } from '../../model/read-error.ts';
import type { Findings } from '../door/findings.ts';
import { admitMesh } from '../door/mesh-door.ts';
import { openedRun } from '../door/opened-run.ts';
import type { OpenedMesh, OpenedRun, RawMesh } from '../format.ts';
import type { NetcdfFile, NetcdfVariable } from './netcdf-file.ts';
import { attributeText, cfValues, timeAxis, unitOf } from './netcdf-values.ts';

/** Which variables make a mesh of faces. */
export interface MeshTopology {
  name: string | null;
  connectivity: NetcdfVariable;
  x: NetcdfVariable;
  y: NetcdfVariable;
  z: NetcdfVariable | null;
}

/** Finds a mesh by the UGRID conventions, or by the usual names of triangle tables. */
export function meshTopology(file: NetcdfFile): MeshTopology | null {
  const variable = (name: string | undefined): NetcdfVariable | null =>
    file.variables.get(name ?? '') ?? null;
  for (const v of file.variables.values()) {
    if (attributeText(v, 'cf_role') !== 'mesh_topology') continue;
    const connectivity = variable(attributeText(v, 'face_node_connectivity'));
    const [x, y, z] = attributeText(v, 'node_coordinates').split(/\s+/).map(variable);
    if (connectivity && x && y) return { name: v.name, connectivity, x, y, z: z ?? null };
  }
  const pick = (pattern: RegExp, rank: number): NetcdfVariable | null =>
    [...file.variables.values()].find((v) => pattern.test(v.name) && v.shape.length === rank) ?? null;
  const connectivity = pick(
    /^(tri(angles)?|elem(ents?)?|element|nv|ikle|face_nodes?|faces|face_node_connectivity)$/i,
    2,
  );
  const x = pick(/^(x|lon(gitude)?|node_x|mesh2d_node_x)$/i, 1);
  const y = pick(/^(y|lat(itude)?|node_y|mesh2d_node_y)$/i, 1);
  if (!connectivity || !x || !y || x.dimensions[0] !== y.dimensions[0]) return null;
  return { name: null, connectivity, x, y, z: pick(/^(z|node_z)$/i, 1) };
}

/** A mesh of triangles, quads and polygons with fields on nodes and faces, over time. */
export function topologyRun(file: NetcdfFile, topology: MeshTopology, findings: Findings): OpenedRun {
  const time = timeAxis(file);
  const { connectivity, x, y, z } = topology;
  const turned = isTurned(file, connectivity);
  const [faces, width] = turned ? [connectivity.shape[1], connectivity.shape[0]] : connectivity.shape;
  const faceDimension = connectivity.dimensions[turned ? 1 : 0];
  const nodes = x.shape[0];
  const coordinates = new Set([connectivity.name, x.name, y.name, z?.name, topology.name]);
  const fields = [...file.variables.values()].flatMap((v): { v: NetcdfVariable; header: FieldHeader }[] => {
    if (coordinates.has(v.name) || v.shape.length === 0) return [];
    const dims = v.dimensions.filter((d) => d !== time?.dimension);
    const timed = v.dimensions.length - dims.length;
    if (dims.length !== 1 || (timed === 1 && v.dimensions[0] !== time?.dimension)) return [];
    const location = dims[0] === x.dimensions[0] ? 'point' : dims[0] === faceDimension ? 'cell' : null;
    return location ? [{ v, header: { name: v.name, location, components: 1, unit: unitOf(v) } }] : [];
  });
  const state = (step: number): OpenedMesh => ({
    points: nodes,
    cells: faces,
    fields: fields.map((f) => f.header),
    meshKey: 'topology',
    readMesh: () => admitMesh(readMesh(file, topology, faces, width, turned), findings),
    readField: (i) =>
      cfValues(file, fields[i].v, fields[i].v.dimensions[0] === time?.dimension ? step : undefined),
  });
  return openedRun([{ name: topology.name, kind: 'mesh', at: state }], {
    steps: time?.values ?? [null],
    timeUnit: time?.unit ?? null,
    lengthUnit: /^(m|km|mm|cm)$/.test(unitOf(x) ?? '') ? unitOf(x) : null,
    findings,
  });
}

/** Some files keep the table of nodes the other way round: its first dimension then counts the corners. */
function isTurned(file: NetcdfFile, table: NetcdfVariable): boolean {
  const [first, second] = table.dimensions;
  const others = [...file.variables.values()].filter((v) => v !== table);
  const uses = (d: string): boolean => others.some((v) => v.dimensions.includes(d));
  if (uses(first) !== uses(second)) return uses(second);
  return table.shape[0] < table.shape[1] && table.shape[0] <= 8;
}

function readMesh(
  file: NetcdfFile,
  { connectivity, x, y, z }: MeshTopology,
  faces: number,
  width: number,
  turned: boolean,
): RawMesh {
  const table = file.read(connectivity.name);
  const fill = connectivity.attributes._FillValue;
  const stated = connectivity.attributes.start_index;
  let lowest = Number.POSITIVE_INFINITY;
  for (let i = 0; i < table.length; i++)
    if (table[i] !== fill && table[i] >= 0 && table[i] < lowest) lowest = table[i];
  // Tables without a stated start count from 1 when they never name a node 0.
  const start = typeof stated === 'number' ? stated : lowest === 1 ? 1 : 0;
  const nodes: number[] = [];
  const offsets = new Uint32Array(faces + 1);
  const types = new Uint8Array(faces);
  for (let c = 0; c < faces; c++) {
    const from = nodes.length;
    for (let k = 0; k < width; k++) {
      const n = table[turned ? k * faces + c : c * width + k];
      if (n === fill || n - start < 0 || Number.isNaN(n)) continue;
      nodes.push(n - start);
    }
    const size = nodes.length - from;
    if (size < 3)
      throw new ReadError(
        `face ${c} has ${size} nodes`,
        `variable ${connectivity.name}`,
        'The file is damaged; write it again.',
      );
    types[c] = size === 3 ? TRIANGLE : size === 4 ? QUAD : POLYGON;
    offsets[c + 1] = nodes.length;
  }
  const xs = file.read(x.name);
  const ys = file.read(y.name);
  const zs = z ? file.read(z.name) : null;
  const points = new Float64Array(3 * xs.length);
  for (let p = 0; p < xs.length; p++) {
    points[3 * p] = xs[p];
    points[3 * p + 1] = ys[p];
    points[3 * p + 2] = zs ? zs[p] : 0;
  }
  return { points, types, offsets, connectivity: Uint32Array.from(nodes) };
}
