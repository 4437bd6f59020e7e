import type { NumberArray } from '../../model/arrays.ts';
import type { FieldHeader } from '../../model/field.ts';
import { CutOffError, ReadError } from '../../model/read-error.ts';
import { wholeFile } from '../bytes/byte-source.ts';
import { fittingCount } from '../bytes/counts.ts';
import { Findings } from '../door/findings.ts';
import { admitMesh } from '../door/mesh-door.ts';
import { once, openedRun } from '../door/opened-run.ts';
import type { CellGroup, FileFormat, OpenedFields, OpenedMesh, OpenedRun } from '../format.ts';
import { mshElements } from './msh-cells.ts';
import { type MshBlock, type MshData, MshReader } from './msh-sections.ts';

/** Gmsh MSH files 2.2 and 4.1, ascii and binary. Physical groups are parts; data sections are fields by time. */
export const msh: FileFormat = {
  id: 'msh',
  name: 'Gmsh MSH mesh',
  extensions: ['.msh'],
  manySteps: true,
  detect: (head) => /^\$(MeshFormat|Comments)/.test(new TextDecoder().decode(head.subarray(0, 16))),
  open(source): OpenedRun | OpenedFields {
    const reader = new MshReader(wholeFile(source), source.length);
    reader.readAll();
    return reader.nodeTags.length > 0 ? openedMesh(reader) : openedFields(reader);
  },
};

/** Data sections by name, each with its steps in order. */
function timesOf(data: MshData[]): number[] {
  return [...new Set(data.map((d) => d.time))].sort((a, b) => a - b);
}

interface NamedPart {
  name: string | null;
  blocks: MshBlock[];
}

function partsOf(reader: MshReader): NamedPart[] {
  const highest = reader.blocks.reduce((n, b) => Math.max(n, b.dimension), 0);
  const named = new Map<string, MshBlock[]>();
  for (const block of reader.blocks) {
    // Elements of a lower dimension without a group are the borders a mesher leaves; those with one are parts.
    const group = block.physical.length > 0 ? block.physical[0] : null;
    if (group === null && block.dimension < highest && reader.physicalNames.size > 0) continue;
    const name =
      group === null ? '' : (reader.physicalNames.get(`${block.dimension}:${group}`) ?? `group ${group}`);
    const list = named.get(name);
    if (list) list.push(block);
    else named.set(name, [block]);
  }
  return [...named].map(([name, blocks]) => ({ name: name || null, blocks }));
}

function openedMesh(reader: MshReader): OpenedRun {
  const findings = new Findings();
  if (reader.cut) findings.add(reader.cut);
  if (reader.blocks.length === 0)
    throw new ReadError(
      'the file has nodes but no elements',
      '$Elements',
      'Write the mesh with its elements.',
    );
  const times = timesOf(reader.data);
  const place = new Map<number, number>();
  for (const [i, tag] of reader.nodeTags.entries()) place.set(tag, i);
  for (const block of reader.blocks) {
    if (block.unknown) findings.add(`elements of type ${block.unknown} are not read and are left out`);
  }
  const known = partsOf(reader).filter((p) => p.blocks.some((b) => !b.unknown));
  const parts = known.map(({ name, blocks }) => {
    const content = once(() =>
      partContent(
        reader,
        blocks.filter((b) => !b.unknown),
        place,
        findings,
      ),
    );
    return {
      name: known.length > 1 ? (name ?? 'rest') : name,
      kind: 'mesh' as const,
      at: (step: number): OpenedMesh => partState(reader, content, times[step] ?? null),
    };
  });
  return openedRun(parts, { steps: times.length > 0 ? times : [null], findings });
}

interface PartContent {
  mesh: ReturnType<typeof admitMesh>;
  /** Index of each point of the part among the nodes of the file. */
  nodes: Uint32Array;
  elementTags: number[];
  groups: CellGroup[];
}

function partContent(
  reader: MshReader,
  blocks: MshBlock[],
  place: Map<number, number>,
  findings: Findings,
): PartContent {
  const cells = blocks.reduce((n, b) => n + b.tags.length, 0);
  const size = blocks.reduce((n, b) => n + b.nodes.length, 0);
  const types = new Uint8Array(cells);
  const offsets = new Uint32Array(cells + 1);
  const connectivity = new Uint32Array(size);
  const own = new Map<number, number>();
  const nodes: number[] = [];
  const elementTags: number[] = [];
  const groups = new Map<string, number[]>();
  let c = 0;
  let at = 0;
  for (const block of blocks) {
    const { type, nodes: width, order } = mshElements[block.element];
    for (const [e, tag] of block.tags.entries()) {
      for (let k = 0; k < width; k++) {
        const nodeTag = block.nodes[e * width + (order ? order[k] : k)];
        const index = place.get(nodeTag);
        if (index === undefined)
          throw new ReadError(
            `element ${tag} uses node ${nodeTag}, which is not there`,
            '$Elements',
            'Write the file again.',
          );
        let p = own.get(index);
        if (p === undefined) {
          p = own.size;
          own.set(index, p);
          nodes.push(index);
        }
        connectivity[at++] = p;
      }
      elementTags.push(tag);
      types[c++] = type;
      offsets[c] = at;
    }
    for (const physical of block.physical.slice(1)) {
      const name = reader.physicalNames.get(`${block.dimension}:${physical}`) ?? `group ${physical}`;
      const list = groups.get(name) ?? [];
      for (let k = c - block.tags.length; k < c; k++) list.push(k);
      groups.set(name, list);
    }
  }
  const points = new Float64Array(3 * nodes.length);
  for (const [p, index] of nodes.entries())
    for (let k = 0; k < 3; k++) points[3 * p + k] = reader.coordinates[3 * index + k];
  return {
    mesh: admitMesh({ points, types, offsets, connectivity }, findings),
    nodes: Uint32Array.from(nodes),
    elementTags,
    groups: [...groups].map(([name, list]) => ({ name, cells: Uint32Array.from(list) })),
  };
}

function partState(reader: MshReader, content: () => PartContent, time: number | null): OpenedMesh {
  const data = reader.data.filter((d) => time === null || d.time === time);
  return {
    get points() {
      return content().nodes.length;
    },
    get cells() {
      return content().elementTags.length;
    },
    fields: data.map(headerOf),
    meshKey: 'mesh',
    readMesh: () => content().mesh,
    readField: (index) => spread(data[index], reader, content()),
    readGroups: () => content().groups,
  };
}

const headerOf = (d: MshData): FieldHeader => ({
  name: d.name,
  location: d.location,
  components: d.components,
  unit: null,
});

/** Values by tag, brought into the order of the points or cells of a part; NaN where there is none. */
function spread(data: MshData, reader: MshReader, { nodes, elementTags }: PartContent): NumberArray {
  const index = new Map<number, number>();
  for (const [i, tag] of data.tags.entries()) index.set(tag, i);
  const tags = data.location === 'point' ? Array.from(nodes, (i) => reader.nodeTags[i]) : elementTags;
  const out = new Float64Array(tags.length * data.components).fill(Number.NaN);
  for (const [p, tag] of tags.entries()) {
    const i = index.get(tag);
    if (i === undefined) continue;
    for (let k = 0; k < data.components; k++)
      out[p * data.components + k] = data.values[i * data.components + k];
  }
  return out;
}

/** Tags of data without a mesh may reach this many times their number. */
const SPARSEST = 64;

/** A file of data alone: its tags count the nodes or elements of another file's mesh from 1. */
function openedFields(reader: MshReader): OpenedFields {
  if (reader.data.length === 0) throw new CutOffError('the file holds neither a mesh nor data', 'whole file');
  const times = timesOf(reader.data);
  return {
    kind: 'fields',
    steps: times,
    findings: new Findings(),
    at(step) {
      const data = reader.data.filter((d) => d.time === times[Math.min(step, times.length - 1)]);
      const size = (location: string): number => {
        const own = data.filter((d) => d.location === location);
        const values = own.reduce((n, d) => n + d.tags.length, 0);
        const highest = own.reduce((n, d) => d.tags.reduce((a, b) => Math.max(a, b), n), 0);
        // Tags may have gaps, but an array is not made for a few values at a tag of a billion.
        return fittingCount(highest, SPARSEST * values + 1024, 1, `tags of the data on ${location}s`);
      };
      return {
        points: size('point'),
        cells: size('cell'),
        fields: data.map(headerOf),
        readField(index) {
          const d = data[index];
          const out = new Float64Array(size(d.location) * d.components).fill(Number.NaN);
          for (const [i, tag] of d.tags.entries())
            for (let k = 0; k < d.components; k++)
              out[(tag - 1) * d.components + k] = d.values[i * d.components + k];
          return out;
        },
      };
    },
  };
}
